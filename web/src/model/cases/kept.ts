/** Cases as this browser has them. */

import { beginCase, sendFindings } from '../api/cause';
import type { CaseBody, CaseFinding } from '../api/types';
import { createJournals, type Journal, type Stored } from '../journal/journal';
import { inLocalStorage } from '../journal/keepers';
import { photosOf, sendPhotos } from '../journal/photos';

export type KeptCase = Journal<CaseFinding>;

export type NewFinding = Omit<CaseFinding, 'id' | 'at' | 'measured' | 'note'> &
  Partial<Pick<CaseFinding, 'measured' | 'note'>>;

/** As local storage has them: what a case holds is called findings there. */
interface Written extends Omit<KeptCase, 'entries'> {
  readonly findings: readonly CaseFinding[];
}

const keeper = inLocalStorage<KeptCase>(
  'ebbrin.cases',
  1,
  (all) => ({
    cases: Object.fromEntries(
      Object.entries(all).map(([id, { entries, ...rest }]) => [id, { ...rest, findings: entries }]),
    ),
  }),
  (found) =>
    Object.fromEntries(
      Object.entries((found as { cases: Record<string, Written> }).cases ?? {})
        .filter(
          ([id, one]) => one?.id === id && Array.isArray(one.findings) && Array.isArray(one.unsent),
        )
        .map(([id, { findings, ...rest }]) => [id, { ...rest, entries: findings }]),
    ),
);

export const storedCase = (body: CaseBody): Stored<CaseFinding> => ({
  id: body.id,
  build: body.build_id ?? null,
  createdAt: body.created_at,
  entries: body.findings,
});

export const useCases = createJournals<CaseFinding, NewFinding>({
  keeper,
  unknown: 'urn:ebbrin:unknown-case',
  make: (found, id, at) => ({ measured: '', note: '', ...found, id, at }),
  begin: beginCase,
  before: (build, entries) =>
    build === null ? Promise.resolve() : sendPhotos(build, photosOf(entries)),
  send: async (id, entries) => storedCase(await sendFindings(id, entries)),
});
