import {
  infiniteQueryOptions,
  keepPreviousData,
  type QueryClient,
  queryOptions,
  type UseQueryOptions,
} from '@tanstack/react-query';
import {
  AwayError,
  type CurvesByName,
  driveBuild,
  driveEachFault,
  listBuilds,
  listRevisions,
  newestSizing,
  openRevision,
  readCurves,
  readHealth,
  readShelf,
} from './client';
import type { Build, Drive, RevisionHeading } from './types';

const JUDGED_SOON = 250; // ms

/** All builds; read again while some are still being judged. A list that is still on its way when its page is left is
 * dropped: it would lack what is made meanwhile. */
export const buildsQuery = () =>
  queryOptions({
    queryKey: ['builds'],
    queryFn: ({ signal }) => listBuilds(signal),
    retry: 1,
    staleTime: 0,
    refetchInterval: ({ state }) =>
      state.data?.some((build) => !build.judged) ? JUDGED_SOON : false,
  });

/** Revisions of a build in pages; asked again after each save. */
export function revisionsQuery(id: string, revision: number) {
  return infiniteQueryOptions({
    queryKey: ['builds', id, 'revisions', revision],
    queryFn: ({ pageParam }) => listRevisions(id, pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page: RevisionHeading[]) => {
      const last = page.at(-1);
      return last && last.revision > 1 ? last.revision : undefined;
    },
    placeholderData: (before) => before,
  });
}

/** One revision, whole; it never changes. */
export const revisionQuery = (id: string, number: number | null) =>
  queryOptions({
    queryKey: ['builds', id, 'revision', number],
    queryFn: () => openRevision(id, number ?? 1),
    enabled: number !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const healthQuery = () =>
  queryOptions({
    queryKey: ['health'],
    queryFn: ({ signal }) => readHealth(signal),
    staleTime: 60_000,
  });

/** Reads again what was asked under a key. What is on its way already may have been answered before the change: a first
 * answer is not dropped by invalidating alone. */
export async function readAgain(queries: QueryClient, queryKey: readonly string[]): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}

/** A server that is away is asked again until it is back; what it refused stays refused. */
const patient = {
  retry: (_count: number, error: Error) => error instanceof AwayError,
  retryDelay: 2000,
};

/** Curves of a case, for the document as it stands. */
export function curvesQuery<Name extends keyof CurvesByName>(
  name: Name,
  build: Build,
  variant: string,
  caseId: string,
  ready: boolean,
): UseQueryOptions<CurvesByName[Name], Error> {
  return {
    queryKey: ['curves', name, variant, caseId, build],
    queryFn: ({ signal }) => readCurves(name, build, variant, caseId, signal),
    enabled: ready && caseId !== '',
    placeholderData: keepPreviousData as never,
    ...patient,
    gcTime: 0,
  };
}

export const shelfQuery = () =>
  queryOptions({
    queryKey: ['shelf'],
    queryFn: ({ signal }) => readShelf(signal),
    staleTime: 0,
    ...patient,
  });

const SIZING_LOOKS = 400; // ms

/** The newest sizing of a build; looked at again and again while it is under way. */
export const sizingQuery = (id: string) =>
  queryOptions({
    queryKey: ['builds', id, 'sizing'],
    queryFn: () => newestSizing(id),
    refetchInterval: ({ state }) =>
      state.data?.state === 'waiting' || state.data?.state === 'running' ? SIZING_LOOKS : false,
    staleTime: 0,
    ...patient,
  });

/** A drive of a variant as it stands. */
export const driveQuery = (build: Build, variant: string, drive: Drive, ready: boolean) =>
  queryOptions({
    queryKey: ['drive', variant, drive, build],
    queryFn: ({ signal }) => driveBuild({ ...build, drives: [] }, variant, drive, signal),
    enabled: ready,
    placeholderData: keepPreviousData,
    ...patient,
    gcTime: 0,
  });

/** What every single fault would come to in a drive. */
export const eachFaultQuery = (build: Build, variant: string, drive: Drive, ready: boolean) =>
  queryOptions({
    queryKey: ['drive', 'faults', variant, drive, build],
    queryFn: ({ signal }) => driveEachFault({ ...build, drives: [] }, variant, drive, signal),
    enabled: ready,
    ...patient,
    gcTime: 0,
  });
