/** Where what was found leaves a case, as the server sees it too. */

import type { CaseFinding } from '../api/types';

export interface Standing {
  readonly evidence: Readonly<Record<string, string>>;
  readonly mended: readonly string[];
  readonly proved: readonly string[];
  readonly drove: 'cool' | 'hot' | null;
  /** Closed once a proof and a cool drive are noted after the last mend. */
  readonly closed: boolean;
}

export function standingOf(findings: readonly CaseFinding[]): Standing {
  const evidence: Record<string, string> = {};
  let mended: string[] = [];
  let proved: string[] = [];
  let drove: 'cool' | 'hot' | null = null;
  for (const found of findings) {
    const cause = found.cause ?? '';
    if (found.kind === 'seen') evidence[found.observation ?? ''] = found.value ?? '';
    else if (found.kind === 'taken_back') delete evidence[found.observation ?? ''];
    else if (found.kind === 'mended') {
      mended = [...mended.filter((name) => name !== cause), cause];
      proved = proved.filter((name) => name !== cause);
      drove = null;
    } else if (found.kind === 'proved') {
      proved = [...proved.filter((name) => name !== cause), cause];
    } else if (found.kind === 'drove') drove = found.value === 'cool' ? 'cool' : 'hot';
    else if (found.kind === 'opened') drove = null;
  }
  return { evidence, mended, proved, drove, closed: proved.length > 0 && drove === 'cool' };
}
