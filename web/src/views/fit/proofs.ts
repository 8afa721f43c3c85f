/** What can be proved of a job, and by what. */

import type { ProofKind } from '../../model/api/types';

export const PROOFS: Record<ProofKind, string> = {
  hold: 'Pressure hold',
  cap: 'Cap on a tester',
  first_cycle: 'First heat cycle',
  second_cycle: 'Second heat cycle',
  strength: 'Strength measured',
  road: 'Ten minutes of road',
  cold_morning: 'Cold morning',
  clamps: 'Clamps after 100 km or 60 miles',
};
/** What a look with one's own eyes proves: no instrument says it. */
export const BY_EYE: readonly ProofKind[] = [
  'first_cycle',
  'second_cycle',
  'road',
  'cold_morning',
  'clamps',
];
export const EVIDENCE: Partial<Record<ProofKind, Record<string, string>>> = {
  first_cycle: { complaint: 'loses_coolant' },
  second_cycle: { complaint: 'loses_coolant' },
  road: { complaint: 'runs_hot' },
  cold_morning: { complaint: 'loses_coolant' },
};

export const VERDICTS = { pass: 'passed', fail: 'failed', doubt: 'in doubt' } as const;
export const TONES = { pass: 'holds', fail: 'fails', doubt: 'tight' } as const;
