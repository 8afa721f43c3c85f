import { useMemo } from 'react';
import { pullLever } from '../../model/api/client';
import { ProblemError } from '../../model/api/transport';
import { FULL, MOST_VARIANTS, withVariant } from '../../model/document/edit';
import { usePlaces } from '../../model/places';
import { useOpened } from '../../model/save/context';

/** Tries a lever in a new variant and shows that; resolves to why it could not, or null. */
export function usePull(): (lever: string) => Promise<string | null> {
  const session = useOpened();
  const places = usePlaces();
  return useMemo(
    () => async (lever) => {
      const { build, variant } = session.getState();
      const from = build.variants[variant]?.id ?? '';
      try {
        const pulled = (await pullLever(build, from, lever)).variants.at(-1);
        if (!pulled) return null;
        // What was typed meanwhile stays.
        const { build: now, setBuild } = session.getState();
        if (now.variants.length >= MOST_VARIANTS) return FULL;
        const next = withVariant(now, pulled);
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
