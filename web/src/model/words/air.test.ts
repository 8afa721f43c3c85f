import { expect, it } from 'vitest';
import { noneFound } from './air';

it.each([
  ['holds', 'that is enough'],
  ['tight', 'no airflow would do'],
  ['fails', 'no airflow would do'],
] as const)('where a case %s it is said that %s', (verdict, words) => {
  expect(noneFound(verdict)).toBe(words);
});
