import type { CaseResult } from '../api/types';

type Hoses = Pick<CaseResult, 'timed' | 'top_hose_c' | 'hunt'>;

/** Top hose that a case is told by, °C: at the end of a timed one, at its hottest where it hunts; null where it never
 *  settles. */
export function hottest(found: Hoses): number | null {
  return found.timed ? found.timed.end_c : inTheEnd(found);
}

/** Whether what it is told by is the hottest of a top hose that comes to no rest. */
export const hunts = (found: Hoses): boolean => found.timed === null && found.hunt !== null;

/** What stands before that number: of a top hose that comes to no rest it is the most, of one that ends beyond what is known
 *  of the coolant the least. */
export const boundOf = (found: Hoses): '' | 'up to ' | 'over ' =>
  hunts(found) ? 'up to ' : found.timed?.beyond ? 'over ' : '';

/** Top hose that a case would come to if it went on for ever, °C: the hottest of one that comes to no rest, null where it
 *  never settles. */
export const inTheEnd = (found: Omit<Hoses, 'timed'>): number | null =>
  found.top_hose_c ?? found.hunt?.hottest_c ?? null;
