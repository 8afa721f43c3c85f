import { queryOptions } from '@tanstack/react-query';
import { listBuilds, listRevisions, readCurves } from './client';
import type { Build } from './types';

export const buildsQuery = () =>
  queryOptions({ queryKey: ['builds'], queryFn: listBuilds, retry: 1, staleTime: 0 });

/** All revisions of a build; asked again after each save. */
export function revisionsQuery(id: string, revision: number) {
  return queryOptions({
    queryKey: ['builds', id, 'revisions', revision],
    queryFn: () => listRevisions(id),
    placeholderData: (before) => before,
  });
}

/** Curves of a case, for the document as it stands. */
export function curvesQuery(build: Build, variant: string, caseId: string, ready: boolean) {
  return queryOptions({
    queryKey: ['curves', variant, caseId, build],
    queryFn: ({ signal }) => readCurves(build, variant, caseId, signal),
    enabled: ready && caseId !== '',
    placeholderData: (before) => before,
    gcTime: 0,
  });
}
