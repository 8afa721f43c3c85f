import { useMemo, useState } from 'react';
import { Button, Notice, Words } from '../../kit/primitives';
import { changesOf, type JobStanding } from '../../model/jobs/standing';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import type { InJob } from './Fit';
import { stepTitle } from './stepTitle';
import { variantNamed } from './variantNamed';

/** As many steps are named before somebody asks for all. */
const NAMED = 4;

/** What the plan of a job that was begun has no longer, or anew, and the ways on. */
export function PlanChanged({
  of,
  begun,
}: {
  readonly of: InJob;
  readonly begun: NonNullable<JobStanding['plan']>;
}) {
  const { plan, job, build, variant } = of;
  const units = useUnits((choice) => choice.units);
  const [all, setAll] = useState(false);
  const planned = job.standing.plan;
  const { more, less } = useMemo(() => changesOf(planned, begun.steps), [planned, begun.steps]);
  if (!planned || more.length + less.length === 0) return null;
  const hidden = [more, less].some((ids) => ids.length > NAMED);
  const named = (ids: readonly string[]) => {
    const titles = ids.map((id) => stepTitle(id, plan, units));
    if (all || titles.length <= NAMED) return titles.join('; ');
    return `${titles.slice(0, NAMED).join('; ')}; and ${titles.length - NAMED} more`;
  };
  return (
    <Notice kind="tight" paddingInline="3" role="status" data-print="no">
      <Words>
        {planned.variant === variant
          ? 'The build has changed since. '
          : `This job was planned for ${variantNamed(build, planned.variant)}. `}
        {more.length > 0 && `New in the plan: ${named(more)}. `}
        {less.length > 0 && `No longer in it: ${named(less)}. `}
        {planned.steps.length !== plan.steps.length &&
          `The job counts ${counted(planned.steps.length, 'step', 'steps')}, the plan below ${plan.steps.length}. `}
        What was ticked stays.
      </Words>
      {hidden && (
        <Button look="bare" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'name fewer' : 'name all of them'}
        </Button>
      )}
      <Button onClick={() => job.add({ kind: 'planned', plan: begun })}>
        Take the plan as it is now
      </Button>
      <Button onClick={() => job.begin(begun)}>Begin another job</Button>
    </Notice>
  );
}
