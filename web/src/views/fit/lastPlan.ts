/** The last plan of a job, kept in this browser: a page that is loaded while the server is away shows it. */

import type { FitPlan } from '../../model/api/types';

const VERSION = 1;
const keyOf = (scope: string) => `ebbrin.plan.${scope}`;

export function remember(scope: string, plan: FitPlan): void {
  try {
    localStorage.setItem(keyOf(scope), JSON.stringify({ version: VERSION, plan }));
  } catch {
    // A browser that keeps nothing shows it again once the server answers.
  }
}

export function remembered(scope: string): FitPlan | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(scope)) ?? 'null');
    return kept?.version === VERSION ? (kept.plan as FitPlan) : null;
  } catch {
    return null;
  }
}
