import type { FitStep } from '../../model/api/types';
import { METRIC } from '../../model/units/quantities';
import { plainText } from '../../model/words/plainText';

/** What a step is called; one that is not in the plan by its id, made readable. */
export function stepTitle(id: string, steps: readonly FitStep[]): string {
  const step = steps.find((one) => one.id === id);
  return step ? plainText(step.title, METRIC) : id.replaceAll('_', ' ');
}
