import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import { jobsNews } from '../../model/api/fit';
import { jobsQuery } from '../../model/api/queries';
import { type KeptJob, type NewEntry, storedJob, useJobs } from '../../model/jobs/kept';
import { standingOfJob } from '../../model/jobs/standing';

/** Which job of a build is looked at, where somebody chose; else the newest. */
const useChosenJob = create<{
  readonly of: Readonly<Record<string, string>>;
  choose: (build: string, id: string) => void;
}>()((set) => ({
  of: {},
  choose: (build, id) => set((s) => ({ of: { ...s.of, [build]: id } })),
}));

export function jobsOf(jobs: Readonly<Record<string, KeptJob>>, build: string): KeptJob[] {
  return Object.values(jobs)
    .filter((one) => one.build === build)
    .sort((a, b) => b.createdAt.localeCompare(a.createdAt));
}

const shownOf = (
  jobs: Readonly<Record<string, KeptJob>>,
  build: string,
  chosen: string | undefined,
): KeptJob | null => {
  const mine = jobsOf(jobs, build);
  return mine.find((one) => one.id === chosen) ?? mine[0] ?? null;
};

/** The job of a build that is looked at; null before there is one. */
export function useShownJobOf(build: string): KeptJob | null {
  const jobs = useJobs((s) => s.journals);
  const chosen = useChosenJob((s) => s.of[build]);
  return useMemo(() => shownOf(jobs, build, chosen), [jobs, build, chosen]);
}

/** Asks for a build's jobs anew whenever another device has added something. */
function useNews(build: string, begun: boolean) {
  const client = useQueryClient();
  useEffect(() => {
    if (!begun || typeof EventSource === 'undefined') return;
    const again = () => {
      void client.invalidateQueries({ queryKey: ['jobs', build] });
    };
    const news = new EventSource(jobsNews(build));
    news.addEventListener('added', again);
    // After a gap something may have been missed.
    news.addEventListener('here', again);
    return () => news.close();
  }, [build, client, begun]);
}

/** Keeps a build's jobs level with the server: what it has is taken over, what it lacks is sent. Looked at again and again
 * only where somebody works on them. */
export function useLevel(build: string, works: boolean) {
  const query = jobsQuery(build);
  const listed = useQuery(works ? query : { ...query, staleTime: 60_000, refetchInterval: false });
  const adopt = useJobs((s) => s.adopt);
  const send = useJobs((s) => s.send);
  const loaded = useJobs((s) => s.loaded);
  useEffect(() => {
    if (listed.data) adopt(listed.data.map(storedJob));
  }, [listed.data, adopt]);
  useEffect(() => {
    // What was written before the page was loaded anew may not have been sent.
    if (loaded) void send();
  }, [send, loaded]);
  return { loaded, fetched: listed.isFetched || listed.failureCount > 0 };
}

/** The shown job, kept level with the server, and what is written into it. */
export function useJob(build: string) {
  const { loaded, fetched } = useLevel(build, true);
  const jobs = useJobs((s) => s.journals);
  const choose = useChosenJob((s) => s.choose);
  const shown = useShownJobOf(build);
  useNews(build, shown !== null);
  const standing = useMemo(() => standingOfJob(shown?.entries ?? []), [shown]);
  const mine = useMemo(() => jobsOf(jobs, build), [jobs, build]);
  function begin(plan: NonNullable<NewEntry['plan']>) {
    const id = useJobs.getState().begin(build);
    choose(build, id);
    useJobs.getState().add(id, { kind: 'planned', plan });
  }
  function add(entry: NewEntry) {
    const { journals, add: put, begin: open } = useJobs.getState();
    const now = shownOf(journals, build, useChosenJob.getState().of[build]);
    put(now?.id ?? open(build), entry);
  }
  /** Take back one entry of any of the build's jobs: it stays written, and no longer counts. */
  function takeBack(id: string) {
    const { journals, add: put } = useJobs.getState();
    const one = jobsOf(journals, build).find((job) => job.entries.some((entry) => entry.id === id));
    if (one) put(one.id, { kind: 'taken_back', of: id });
  }
  return {
    shown,
    standing,
    all: mine,
    add,
    takeBack,
    begin,
    choose: (id: string) => choose(build, id),
    ready: loaded && (fetched || shown !== null),
  };
}

export type Job = ReturnType<typeof useJob>;
