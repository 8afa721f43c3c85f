import { useParams } from 'react-router';
import type { Place } from '../../kit/page/place';
import { Button, Paragraph } from '../../kit/primitives';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';
import { CaseBench } from '../stations/Bench';
import { Rows } from './Rows';
import { useCaseEdits } from './useCaseEdits';

function RowsPage() {
  const edits = useCaseEdits();
  const places = usePlaces();
  return <Rows onAdd={edits.add} onDone={() => places.to('')} onEdit={edits.open} />;
}

function CasePage() {
  const { case: id = '' } = useParams();
  const edits = useCaseEdits();
  const places = usePlaces();
  const there = useSession((s) => s.build.cases.some((entry) => entry.id === id));
  if (!there)
    return (
      <Paragraph padding="6" role="status">
        The build has no case “{id}”; it may have been removed.{' '}
        <Button onClick={() => places.to('cases')}>All cases</Button>
      </Paragraph>
    );
  return <CaseBench key={id} id={id} onClose={() => places.to('')} onRemove={edits.remove} />;
}

export const rowsPlace: Place = {
  path: 'cases',
  title: () => 'Duty cases',
  Page: RowsPage,
  frame: 'brief',
  command: { name: 'All cases as rows', keys: 'D' },
};

export const casePlace: Place = {
  path: 'cases/:case',
  title: () => 'Duty case',
  Page: CasePage,
  frame: 'stations',
  early: true,
};
