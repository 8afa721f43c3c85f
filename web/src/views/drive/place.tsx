import { lazy } from 'react';
import { useParams } from 'react-router';
import type { Place } from '../../kit/page/place';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';
import { counted } from '../../model/words/counted';
import { showMoment } from './moment';

const Drive = lazy(() => import('./Drive').then((m) => ({ default: m.Drive })));

function DrivePage() {
  const { drive = '' } = useParams();
  const places = usePlaces();
  return (
    <Drive
      shown={drive}
      onShow={(id) => places.to(id ? `drive/${encodeURIComponent(id)}` : 'drive')}
      onDone={() => places.to('')}
      onMoment={showMoment}
    />
  );
}

function useCount() {
  const count = useSession((s) => s.build.drives?.length ?? 0);
  return count === 0 ? 'none kept yet' : counted(count, 'drive', 'drives');
}

export const drivePlace: Place = {
  path: 'drive/:drive?',
  title: () => 'Drive it',
  Page: DrivePage,
  frame: 'brief',
  command: { name: 'Drive it: the build over time, with its faults', keys: 'G' },
  job: { word: 'Drive', useWaiting: useCount },
};
