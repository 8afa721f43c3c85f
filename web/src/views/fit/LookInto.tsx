import { useNavigate } from 'react-router';
import { Button } from '../../kit/primitives';
import { useCases } from '../../model/cases/kept';
import { addressOf } from '../../model/places';
import type { InJob } from './Fit';

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
    const cases = useCases.getState();
    const id = cases.begin(of.buildId);
    for (const [observation, value] of Object.entries(evidence))
      cases.add(id, { kind: 'seen', observation, value });
    navigate(addressOf({ id: of.buildId, variant: of.variant, place: 'cause', caseId: null }));
  }
  return (
    <Button look="bare" paddingInline="1" onClick={look}>
      look into it
    </Button>
  );
}
