import { lazy } from 'react';
import type { Params, Place } from '../../kit/page/place';
import { nextStep, standingOfJob } from '../../model/jobs/standing';
import { useSession } from '../../model/save/context';
import { partOf, parts } from './parts';
import { useLevel, useShownJobOf } from './useJob';

const Fit = lazy(() => import('./Fit').then((m) => ({ default: m.Fit })));

function useWaiting() {
  const build = useSession((s) => s.id);
  useLevel(build, false);
  const shown = useShownJobOf(build);
  if (!shown) return 'parts, plan, proofs';
  const standing = standingOfJob(shown.entries);
  if (!standing.plan) return 'a job is open';
  const next = nextStep(standing);
  return next ? `step ${next.number} of ${next.of}` : 'all steps done';
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
