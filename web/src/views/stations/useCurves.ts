import { useQuery } from '@tanstack/react-query';
import type { CurvesByName } from '../../model/api/client';
import { curvesQuery } from '../../model/api/queries';
import { useSession } from '../../model/save/context';
import { useShownCase } from '../../model/save/shownCase';

/** Curves of the shown case in the shown variant, asked again whenever the answer has changed. */
export function useCurves<Name extends keyof CurvesByName>(name: Name) {
  const build = useSession((s) => s.asked);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? '');
  const current = useSession((s) => s.current);
  const shown = useShownCase();
  return useQuery(curvesQuery(name, build, variant, shown?.id ?? '', current));
}
