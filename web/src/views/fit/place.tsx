import { lazy } from 'react';
import type { Params, Place } from '../../kit/page/place';
import { standingOfJob } from '../../model/jobs/standing';
import { useSession } from '../../model/save/context';
import { partOf, parts } from './parts';
import { useLevel, useShownJobOf } from './useJob';

const Fit = lazy(() => import('./Fit').then((m) => ({ default: m.Fit })));

function useWaiting() {
  const build = useSession((s) => s.id);
  useLevel(build, false);
  const shown = useShownJobOf(build);
  if (!shown) return 'parts, plan, proofs';
  const { plan, steps } = standingOfJob(shown.entries);
  if (!plan) return 'a job is open';
  const done = plan.steps.filter((id) => (steps[id]?.state ?? 'open') !== 'open').length;
  return done === plan.steps.length ? 'all steps done' : `step ${done + 1} of ${plan.steps.length}`;
}

const title = (params: Params) => {
  const part = partOf(params.part);
  return part === null ? null : parts[part];
};

export const fitPlace: Place = {
  path: 'fit/:part?',
  title,
  Page: Fit,
  frame: 'alone',
  early: true,
  command: { name: 'Fit and fill: parts, plan, proofs', keys: 'N' },
  job: { word: 'Fit and fill', useWaiting },
};
