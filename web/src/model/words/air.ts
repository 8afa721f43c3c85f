/** What is said of the air of a case for which none was found that gives it the chance asked for. */

import type { Verdict } from '../api/types';

/** One that holds has enough: a valve that stays shut may leave nothing for air to do. */
export const noneFound = (verdict: Verdict): string =>
  verdict === 'holds' ? 'that is enough' : 'no airflow would do';
