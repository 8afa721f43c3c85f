import { useNavigate } from 'react-router';
import { Button } from '../../kit/primitives';
import { type KeptCase, useCases } from '../../model/cases/kept';
import { shownOf, useChosenCase } from '../../model/cases/shown';
import { standingOf } from '../../model/cases/standing';
import { addressOf } from '../../model/places';
import type { InJob } from './Fit';

/** Whether a case is open and says all of it already. */
function tells(shown: KeptCase, evidence: Readonly<Record<string, string>>): boolean {
  const standing = standingOf(shown.entries);
  const told = Object.entries(evidence).every(([name, value]) => standing.evidence[name] === value);
  return told && !standing.closed;
}

/** Leads into the finding of the cause with what was seen already told. */
export function LookInto({
  of,
  evidence,
}: {
  readonly of: Pick<InJob, 'buildId' | 'variant'>;
  readonly evidence: Readonly<Record<string, string>>;
}) {
  const navigate = useNavigate();
  if (Object.keys(evidence).length === 0) return null;
  function look() {
    const { journals, begin, add } = useCases.getState();
    const { of: chosen, choose } = useChosenCase.getState();
    const shown = shownOf(journals, of.buildId, chosen[of.buildId]);
    if (!shown || !tells(shown, evidence)) {
      const id = begin(of.buildId);
      for (const [observation, value] of Object.entries(evidence))
        add(id, { kind: 'seen', observation, value });
      choose(of.buildId, id);
    }
    navigate(addressOf({ id: of.buildId, variant: of.variant, place: 'cause', caseId: null }));
  }
  return (
    <Button look="bare" paddingInline="1" onClick={look}>
      look into it
    </Button>
  );
}
