import { expect, it } from 'vitest';
import { shedding } from './shedding';

it.each([
  [12.3, 12.3, 'shed'],
  [0, 0, 'shed'],
  [-0.04, 0, 'shed'],
  [-1.1, 1.1, 'taken up'],
])('%s kW through a core are %s %s', (through, kw, word) => {
  expect(shedding(through)).toEqual({ kw, said: word });
});
