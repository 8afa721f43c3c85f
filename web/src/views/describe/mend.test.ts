import { describe, expect, it } from 'vitest';
import { typed } from './Mend';

describe('a value that is typed to mend a document', () => {
  it.each([
    ['60', 60],
    ['1,5', 1.5],
    ['-4e-3', -0.004],
    ['true', true],
    ['', null],
    ['null', null],
    [' energy_balance ', 'energy_balance'],
  ])('%s', (text, value) => {
    expect(typed(text)).toBe(value);
  });
});
