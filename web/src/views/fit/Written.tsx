import { Box, Words } from '../../kit/primitives';
import { lasting } from '../../kit/steps/clock';
import { Quantity } from '../../kit/words/Quantity';
import type { FitStep } from '../../model/api/types';
import type { StepStanding } from '../../model/jobs/standing';
import { TakeBack } from './TakeBack';

/** What was read, noted and seen happen at a step. */
export function Written({
  standing,
  step,
  onTakeBack,
}: {
  readonly standing: StepStanding;
  readonly step: FitStep;
  readonly onTakeBack: (id: string) => void;
}) {
  const moments = step.events.filter((one) => one.event in standing.moments);
  if (standing.readings.length + standing.notes.length + moments.length === 0) return null;
  return (
    <Box as="ul" marginTop="3" aria-label="Written at this step">
      {moments.map((one) => (
        <Box as="li" key={one.event}>
          <Words size="small">
            {one.says} after {lasting(standing.moments[one.event] ?? 0)}
          </Words>
        </Box>
      ))}
      {standing.readings.map((one) => (
        <Box as="li" key={one.id}>
          <Words size="small">
            {one.reading}: <Quantity value={one.value} kind={one.quantity ?? 'count'} />
            {one.by ? `, ${one.by}` : ''}
          </Words>
          <TakeBack what={one.reading ?? 'reading'} onPress={() => onTakeBack(one.id)} />
        </Box>
      ))}
      {standing.notes.map((one) => (
        <Box as="li" key={one.id}>
          <Words size="small">
            “{one.note}”{one.by ? `, ${one.by}` : ''}
          </Words>
          <TakeBack what={one.note ?? 'note'} onPress={() => onTakeBack(one.id)} />
        </Box>
      ))}
    </Box>
  );
}
