import { useSearchParams } from 'react-router';
import type { CaseResult } from '../api/types';
import { useSession } from './context';

/** The case that the loop shows: the chosen one, else the worst. */
export function useShownCase(): CaseResult | null {
  const [search] = useSearchParams();
  const evaluation = useSession((s) => s.evaluation);
  if (!evaluation) return null;
  const wanted = search.get('case');
  return evaluation.cases.find((entry) => entry.id === wanted) ?? evaluation.cases[0] ?? null;
}
