import { lazy } from 'react';
import type { Place } from '../../kit/page/place';
import { usePlaces } from '../../model/places';

const History = lazy(() => import('./History').then((m) => ({ default: m.History })));

function HistoryPage() {
  const places = usePlaces();
  return <History onDone={() => places.to('')} />;
}

export const historyPlace: Place = {
  path: 'history',
  title: () => 'History',
  Page: HistoryPage,
  frame: 'brief',
  early: true,
  command: { name: 'History', keys: 'H' },
};
