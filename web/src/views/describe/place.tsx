import type { Place } from '../../kit/page/place';
import { useSession } from '../../model/save/context';
import { counted } from '../../model/words/counted';
import { DescribePage } from './DescribePage';

function useWanted() {
  const wanted = useSession((s) => (s.needed ? s.problems.length : 0));
  const guessed = useSession((s) => s.evaluation?.assumed.filter((a) => a.guess).length ?? null);
  if (wanted > 0) return `${counted(wanted, 'value', 'values')} wanted`;
  if (guessed === null) return '…';
  return guessed === 0 ? 'all known' : `${guessed} guessed`;
}

export const describePlace: Place = {
  path: 'describe',
  title: () => 'Describe',
  Page: DescribePage,
  frame: 'brief',
  early: true,
  command: { name: 'What is known and what is guessed', keys: 'Q' },
  job: { word: 'Describe', useWaiting: useWanted },
};
