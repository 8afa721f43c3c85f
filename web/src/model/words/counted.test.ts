import { expect, it } from 'vitest';
import { agreeing, counted } from './counted';

it('lets the word agree with its number', () => {
  expect([0, 1, 2, 21].map((n) => counted(n, 'drive', 'drives'))).toEqual([
    '0 drives',
    '1 drive',
    '2 drives',
    '21 drives',
  ]);
  expect(agreeing(1, 'waits', 'wait')).toBe('waits');
});
