import type { FitPlan } from '../../model/api/types';
import type { Units } from '../../model/units/quantities';
import { plainText } from '../../model/words/plainText';

/** What a step is called, whether it is in the plan or not. */
export function stepTitle(id: string, plan: FitPlan, units: Units): string {
  const step = plan.steps.find((one) => one.id === id);
  return step ? plainText(step.title, units) : (plan.titles[id] ?? id);
}
