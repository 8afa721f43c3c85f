/** For tests: cases as a server gives them. */

import type { CaseBody, CaseFinding } from '../model/api/types';

/** An open case of a build, or of any car. */
export const caseBody = (
  id: string,
  buildId: string | null = null,
  findings: CaseFinding[] = [],
): CaseBody => ({
  id,
  build_id: buildId,
  created_at: '2026-05-14T08:00:00Z',
  state: 'open',
  evidence: {},
  mended: [],
  proved: [],
  drove: null,
  findings,
});
