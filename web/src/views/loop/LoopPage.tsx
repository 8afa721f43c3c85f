import { usePhone } from '../../kit/page/usePhone';
import { Box } from '../../kit/primitives';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';
import { useShownCase } from '../../model/save/shownCase';
import { Cases } from '../cases/Cases';
import { useCaseEdits } from '../cases/useCaseEdits';
import { Loop } from './Loop';
import { LoopStack } from './LoopStack';
import { Side } from './Side';
import { useOpenStation } from './useOpenStation';

/** The verdict at a glance: the loop, every case, and what would help. */
export function LoopPage() {
  const evaluation = useSession((s) => s.evaluation);
  const variant = useSession((s) => s.build.variants[s.variant]);
  const shownCase = useShownCase();
  const places = usePlaces();
  const open = useOpenStation();
  const edits = useCaseEdits();
  const Drawn = usePhone() ? LoopStack : Loop;
  if (!evaluation || !variant || !shownCase) return null;
  return (
    <>
      <Drawn evaluation={evaluation} variant={variant} shownCase={shownCase} onOpen={open} />
      <Box
        display="grid"
        gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 286px' }}
        borderTop="1px solid"
        borderColor="rule"
      >
        <Cases
          evaluation={evaluation}
          shownId={shownCase.id}
          onShow={places.showCase}
          onEdit={edits.open}
          onRows={edits.rows}
          onAdd={edits.add}
        />
        <Side evaluation={evaluation} shown={shownCase} onOpen={open} />
      </Box>
    </>
  );
}
