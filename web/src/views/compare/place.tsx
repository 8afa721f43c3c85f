import { lazy } from 'react';
import type { Place } from '../../kit/page/place';
import { useSession } from '../../model/save/context';

const Compare = lazy(() => import('./Compare').then((m) => ({ default: m.Compare })));

function ComparePage() {
  const evaluation = useSession((s) => s.evaluation);
  return evaluation && <Compare evaluation={evaluation} />;
}

export const comparePlace: Place = {
  path: 'compare',
  title: () => 'Variants side by side',
  Page: ComparePage,
  frame: 'full',
  command: { name: 'Variants side by side', keys: 'S' },
};
