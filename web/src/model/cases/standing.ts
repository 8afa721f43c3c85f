/** Where what was found leaves a case, as the server sees it too. */

import type { CaseFinding } from '../api/types';

export interface Standing {
  readonly evidence: Readonly<Record<string, string>>;
  readonly mended: readonly string[];
  readonly proved: readonly string[];
  readonly drove: 'cool' | 'hot' | null;
  /** Closed once all that was mended is proved and a drive after the last mend stayed cool. */
  readonly closed: boolean;
}

/** The findings without what was noted of a mend that was none after all. */
function counting(findings: readonly CaseFinding[]): readonly CaseFinding[] {
  let kept: readonly CaseFinding[] = [];
  for (const found of findings) {
    if (found.kind !== 'taken_back' || found.observation) kept = [...kept, found];
    else
      kept = kept.filter(
        ({ kind, cause }) => (kind !== 'mended' && kind !== 'proved') || cause !== found.cause,
      );
  }
  return kept;
}

export function standingOf(findings: readonly CaseFinding[]): Standing {
  const evidence: Record<string, string> = {};
  let mended: string[] = [];
  let proved: string[] = [];
  let drove: 'cool' | 'hot' | null = null;
  for (const found of counting(findings)) {
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
  const allProved = mended.length > 0 && mended.every((name) => proved.includes(name));
  return { evidence, mended, proved, drove, closed: allProved && drove === 'cool' };
}
