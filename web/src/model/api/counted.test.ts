import { expect, it } from 'vitest';
import { counted } from './counted';

it('numbers a document once, and another one anew even where it says the same', () => {
  const one = { name: 'a' };
  expect(counted(one)).toBe(counted(one));
  expect(counted({ name: 'a' })).not.toBe(counted(one));
  expect(counted(null)).toBe(0);
});
