/** The last answer for a car, kept in this browser: a page that is loaded while the server is away shows it. */

import type { Diagnosis } from '../../model/api/types';

const VERSION = 1;
const keyOf = (scope: string) => `ebbrin.diagnosis.${scope}`;

export function remember(scope: string, found: Diagnosis): void {
  try {
    localStorage.setItem(keyOf(scope), JSON.stringify({ version: VERSION, found }));
  } catch {
    // A browser that keeps nothing shows it again once the server answers.
  }
}

export function remembered(scope: string): Diagnosis | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(scope)) ?? 'null');
    return kept?.version === VERSION ? (kept.found as Diagnosis) : null;
  } catch {
    return null;
  }
}
