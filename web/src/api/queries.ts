import { queryOptions } from '@tanstack/react-query';
import { listBuilds, listRevisions } from './client';

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
