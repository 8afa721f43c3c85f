import { lazy } from 'react';
import type { Place } from '../../kit/page/place';
import { useShownCaseOf } from '../../model/cases/shown';
import { standingOf } from '../../model/cases/standing';
import { useSession } from '../../model/save/context';
import { Offered } from './Offered';

const Cause = lazy(() => import('./Cause').then((m) => ({ default: m.Cause })));

function CausePage() {
  const build = useSession((s) => s.build);
  const buildId = useSession((s) => s.id);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? null);
  return <Cause build={build} buildId={buildId} variant={variant} Offered={Offered} />;
}

function useCase() {
  const shown = useShownCaseOf(useSession((s) => s.id));
  if (!shown) return 'does it run hot?';
  const { evidence, closed } = standingOf(shown.entries);
  if (closed) return 'mended and proved';
  const seen = Object.values(evidence).filter((value) => value !== 'not_looked').length;
  return seen === 0 ? 'a case is open' : `${seen} seen`;
}

export const causePlace: Place = {
  path: 'cause',
  title: () => 'Find the cause',
  Page: CausePage,
  frame: 'alone',
  early: true,
  command: { name: 'Find the cause: it runs hot anyway', keys: 'F' },
  job: { word: 'Find the cause', useWaiting: useCase },
};
