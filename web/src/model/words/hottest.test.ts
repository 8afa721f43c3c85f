import { expect, it } from 'vitest';
import { boundOf, hottest, hunts, inTheEnd } from './hottest';

const run = { duration_s: 600, start_c: 80, end_c: 101, time_to_limit_s: null, beyond: false };
const hunt = { coldest_c: 92, hottest_c: 104 };

it.each([
  ['settles', { timed: null, top_hose_c: 97, hunt: null }, 97, false, 97],
  ['is timed', { timed: run, top_hose_c: 112, hunt: null }, 101, false, 112],
  ['is timed and would hunt', { timed: run, top_hose_c: null, hunt }, 101, false, 104],
  ['hunts', { timed: null, top_hose_c: null, hunt }, 104, true, 104, 'up to '],
  ['never settles', { timed: null, top_hose_c: null, hunt: null }, null, false, null],
  [
    'ends beyond what is known',
    { timed: { ...run, end_c: 140, beyond: true }, top_hose_c: null, hunt: null },
    140,
    false,
    null,
    'over ',
  ],
])('the top hose of a case that %s', (_, found, told, restless, end, bound = '') => {
  expect(hottest(found)).toBe(told);
  expect(hunts(found)).toBe(restless);
  expect(inTheEnd(found)).toBe(end);
  expect(boundOf(found)).toBe(bound);
});
