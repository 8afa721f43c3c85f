import { useMemo } from 'react';
import { pullLever } from '../../model/api/client';
import { ProblemError } from '../../model/api/transport';
import { usePlaces } from '../../model/places';
import { useOpened } from '../../model/save/context';

/** Tries a lever in a new variant and shows that; resolves to why it could not, or null. */
export function usePull(): (lever: string) => Promise<string | null> {
  const session = useOpened();
  const places = usePlaces();
  return useMemo(
    () => async (lever) => {
      const { build, variant, setBuild } = session.getState();
      const from = build.variants[variant]?.id ?? '';
      try {
        const next = await pullLever(build, from, lever);
        setBuild(next);
        places.showVariant(next.variants.at(-1)?.id ?? from);
        return null;
      } catch (error) {
        return error instanceof ProblemError ? error.problem.detail : 'The server does not answer.';
      }
    },
    [session, places],
  );
}
