import {
  infiniteQueryOptions,
  keepPreviousData,
  type QueryClient,
  queryOptions,
  type UseQueryOptions,
} from '@tanstack/react-query';
import { backoff } from './backoff';
import { diagnose, listCases, testCards } from './cause';
import {
  type CurvesByName,
  driveBuild,
  driveEachFault,
  listBuilds,
  listRevisions,
  newestSizing,
  openRevision,
  readCurves,
  readHealth,
  readSettings,
  readShelf,
} from './client';
import { counted } from './counted';
import { listJobs, readFilling, readParts, readPlan } from './fit';
import { AwayError } from './transport';
import type {
  Build,
  DiagnosisQuestion,
  Drive,
  FillQuestion,
  FitSchool,
  RevisionHeading,
} from './types';

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

export const settingsQuery = () =>
  queryOptions({
    queryKey: ['settings'],
    queryFn: ({ signal }) => readSettings(signal),
    staleTime: 60_000,
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
  retryDelay: (attempt: number) => backoff(attempt),
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
    queryKey: ['curves', name, variant, caseId, counted(build)],
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
    queryKey: ['drive', variant, drive, counted(build)],
    queryFn: ({ signal }) => driveBuild({ ...build, drives: [] }, variant, drive, signal),
    enabled: ready,
    placeholderData: keepPreviousData,
    ...patient,
    gcTime: 0,
  });

/** What every single fault would come to in a drive. */
export const eachFaultQuery = (build: Build, variant: string, drive: Drive, ready: boolean) =>
  queryOptions({
    queryKey: ['drive', 'faults', variant, drive, counted(build)],
    queryFn: ({ signal }) => driveEachFault({ ...build, drives: [] }, variant, drive, signal),
    enabled: ready,
    ...patient,
    gcTime: 0,
  });

const DRIVEN_SOON = 900; // ms

/** What it may be; asked again while the build is being driven in the model. */
export const diagnosisQuery = (build: Build | null, question: Omit<DiagnosisQuestion, 'build'>) =>
  queryOptions({
    queryKey: ['diagnosis', question, counted(build)],
    queryFn: ({ signal }) =>
      diagnose({ ...question, build: build && { ...build, drives: [] } }, signal),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) =>
      state.data?.spoken_by.state === 'driving' ? DRIVEN_SOON : false,
    ...patient,
    gcTime: 0,
  });

/** The test cards; asked again once the build's drives are there. */
export const cardsQuery = (build: Build | null, variant: string | null, driven: boolean) =>
  queryOptions({
    queryKey: ['cards', variant, driven, counted(build)],
    queryFn: ({ signal }) => testCards(build && { ...build, drives: [] }, variant, signal),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    ...patient,
  });

/** The cases of a build, or of any car; looked at again, for another device may have found something. */
export const casesQuery = (build: string | null) =>
  queryOptions({
    queryKey: ['cases', build],
    queryFn: ({ signal }) => listCases(build, signal),
    refetchInterval: 10_000,
    ...patient,
  });

const bare = (build: Build): Build => ({ ...build, drives: [] });

/** The work plan to a variant. */
export const planQuery = (build: Build, variant: string, school: FitSchool) =>
  queryOptions({
    queryKey: ['fit', 'plan', variant, school, counted(build)],
    queryFn: ({ signal }) => readPlan({ build: bare(build), variant, school }, signal),
    placeholderData: keepPreviousData,
    ...patient,
    gcTime: 0,
  });

/** Parts and materials of the same job. */
export const partsQuery = (build: Build, variant: string, school: FitSchool) =>
  queryOptions({
    queryKey: ['fit', 'parts', variant, school, counted(build)],
    queryFn: ({ signal }) => readParts({ build: bare(build), variant, school }, signal),
    placeholderData: keepPreviousData,
    ...patient,
    gcTime: 0,
  });

/** What the first runs of a variant should look like. */
export const fillingQuery = (build: Build, day: Omit<FillQuestion, 'build'>) =>
  queryOptions({
    queryKey: ['fit', 'filling', day, counted(build)],
    queryFn: ({ signal }) => readFilling({ ...day, build: bare(build) }, signal),
    placeholderData: keepPreviousData,
    ...patient,
    gcTime: 0,
  });

/** The jobs of a build; its news ask again. */
export const jobsQuery = (build: string) =>
  queryOptions({
    queryKey: ['jobs', build],
    queryFn: ({ signal }) => listJobs(build, signal),
    staleTime: 0,
    // Before there is one nobody tells of it; after that its news do.
    refetchInterval: ({ state }) => (state.data?.length ? 60_000 : 1_500),
    ...patient,
  });
