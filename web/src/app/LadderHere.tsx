import { memo } from 'react';
import type { Place } from '../kit/page/place';
import { useSession } from '../model/save/context';
import { useShownCase } from '../model/save/shownCase';
import { useSideMarks } from '../views/compare/useSideMarks';
import type { Moment } from '../views/drive/course';
import { useMoment } from '../views/drive/moment';
import { Ladder } from '../views/ladder/Ladder';

/** The ladder as the place wants it: while it is driven, it stands where the play head does. */
export const LadderHere = memo(function LadderHere({ place }: { readonly place: Place }) {
  const evaluation = useSession((s) => s.evaluation);
  const ghost = useSession((s) => s.ghost);
  const shownCase = useShownCase();
  const moment = useMoment((s) => s.moment);
  const side = useSideMarks(shownCase?.id ?? null);
  if (!evaluation || !shownCase) return null;
  const driven = moment && evaluation.cases.find((entry) => entry.id === moment.caseId);
  return (
    <Ladder
      evaluation={evaluation}
      ghost={ghost}
      shownCase={driven || shownCase}
      side={moment ? momentMarks(moment) : place.path === 'compare' ? side : null}
    />
  );
});

/** Engine and hoses at a moment of a drive, as the ladder marks them. */
function momentMarks(moment: Moment) {
  return [
    { label: 'engine', value: moment.engineOut, strong: true },
    { label: 'top', value: moment.top, strong: false },
    { label: 'bottom', value: moment.bottom, strong: false },
  ];
}
