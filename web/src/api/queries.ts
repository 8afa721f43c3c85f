import { queryOptions } from '@tanstack/react-query';
import { listBuilds, openBuild } from './client';

export const buildsQuery = () =>
  queryOptions({ queryKey: ['builds'], queryFn: listBuilds, retry: 1, staleTime: 0 });

export const buildQuery = (id: string) =>
  queryOptions({
    queryKey: ['build', id],
    queryFn: () => openBuild(id),
    retry: 1,
    staleTime: 0,
    gcTime: 0,
  });
