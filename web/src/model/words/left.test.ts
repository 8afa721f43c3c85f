import { expect, test } from 'vitest';
import { left } from './left';

test.each([
  [null, false],
  [-7, false],
  [0.49, false],
  [0.5, true],
  [34, true],
])('of %s something is left: %s', (margin, said) => {
  expect(left(margin)).toBe(said);
});
