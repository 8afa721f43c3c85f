import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { removeSizing, startSizing, stopSizing } from '../../model/api/client';
import { readAgain, sizingQuery } from '../../model/api/queries';
import type { SizingRun, Wishes } from '../../model/api/types';
import { useOpened, useSession } from '../../model/save/context';

/** The newest sizing of the opened build, and what can be done with it. */
export function useSizing() {
  const id = useSession((s) => s.id);
  const session = useOpened();
  const queries = useQueryClient();
  const found = useQuery(sizingQuery(id));
  const keep = (run: SizingRun) => queries.setQueryData(sizingQuery(id).queryKey, run);
  const start = useMutation({
    mutationFn: (wishes: Wishes) => {
      const { asked, variant } = session.getState();
      return startSizing(id, asked, asked.variants[variant]?.id ?? '', wishes);
    },
    onSuccess: keep,
  });
  const stop = useMutation({ mutationFn: stopSizing, onSuccess: keep });
  // The one before it is the newest then.
  const remove = useMutation({
    mutationFn: removeSizing,
    onSuccess: () => readAgain(queries, ['builds', id, 'sizing']),
  });
  const run = found.data ?? null;
  const busy = run?.state === 'waiting' || run?.state === 'running';
  return {
    run,
    busy,
    at: found.dataUpdatedAt,
    error: found.error,
    loading: found.isPending,
    start,
    stop,
    remove,
  };
}
