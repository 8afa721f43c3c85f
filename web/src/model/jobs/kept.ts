/** Jobs at the car as this browser has them. */

import { beginJob, sendEntries } from '../api/fit';
import type { JobBody, JobEntry } from '../api/types';
import { createJournals, type Journal, type Stored } from '../journal/journal';
import { inDatabase } from '../journal/keepers';
import { photosOf, sendPhotos } from '../journal/photos';

export type KeptJob = Journal<JobEntry>;
/** An entry to be written; of now unless it says when. */
export type NewEntry = Partial<Omit<JobEntry, 'id'>> & Pick<JobEntry, 'kind'>;

export const storedJob = (body: JobBody): Stored<JobEntry> => ({
  id: body.id,
  build: body.build_id ?? null,
  createdAt: body.created_at,
  entries: body.entries,
});

export const useJobs = createJournals<JobEntry, NewEntry>({
  keeper: inDatabase<KeptJob>('jobs'),
  unknown: 'urn:ebbrin:unknown-job',
  make: (entry, id, at) => ({ by: '', note: '', figures: {}, at, ...entry, id }) as JobEntry,
  begin: (id, build) => beginJob(id, build ?? ''),
  before: (build, entries) => sendPhotos(build ?? '', photosOf(entries)),
  send: async (id, entries) => storedJob(await sendEntries(id, entries)),
});
