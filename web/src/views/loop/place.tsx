import type { Place } from '../../kit/page/place';
import { useSession } from '../../model/save/context';
import { LoopPage } from './LoopPage';

function useHeld() {
  return useSession((s) => {
    if (!s.evaluation) return '…';
    const held = s.evaluation.cases.filter((entry) => entry.verdict === 'holds').length;
    return `${held} of ${s.evaluation.cases.length} hold`;
  });
}

export const loopPlace: Place = {
  path: '',
  title: () => '',
  Page: LoopPage,
  frame: 'full',
  command: { name: 'The loop', keys: 'Escape' },
  job: { word: 'Judge', useWaiting: useHeld },
};
