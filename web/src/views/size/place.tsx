import { useQuery } from '@tanstack/react-query';
import { lazy } from 'react';
import type { Place } from '../../kit/page/place';
import { sizingQuery } from '../../model/api/queries';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';

const Size = lazy(() => import('./Size').then((m) => ({ default: m.Size })));

function SizePage() {
  const places = usePlaces();
  return (
    <Size onDone={() => places.to('')} onShow={(variant) => places.showVariant(variant, '')} />
  );
}

function useFound() {
  const id = useSession((s) => s.id);
  const { data: run } = useQuery(sizingQuery(id));
  if (!run) return 'not asked yet';
  if (run.state === 'waiting') return 'waits';
  if (run.state === 'running') return 'searching';
  if (run.state !== 'done' || !run.result) return 'no answer';
  const count = run.result.solutions.length;
  return count === 0 ? 'nothing fits' : `${count} to choose from`;
}

export const sizePlace: Place = {
  path: 'size',
  title: () => 'Size it',
  Page: SizePage,
  frame: 'brief',
  command: { name: 'Size it: which parts would do', keys: 'Z' },
  job: { word: 'Size', useWaiting: useFound },
};
