import { Button, Paragraph } from '../../kit/primitives';
import type { Case } from '../../model/api/types';
import type { NewFinding } from '../../model/cases/kept';
import { useSession } from '../../model/save/context';
import { useShownCase } from '../../model/save/shownCase';

const CRAWLING = 20; // km/h
const FAST = 60; // km/h
const HILLY = 0.02;

/** When it would be hot, as the driver says it, if a case is what happens on the road; null for none of these. */
export function whenOf(entry: Case): string | null {
  const speed = entry.speed_km_h ?? 0;
  if (speed < 1) return 'standing';
  if (entry.load !== 'power' && (entry.gradient_share ?? 0) > HILLY) return 'climbing';
  if (speed < CRAWLING) return 'crawling';
  return speed > FAST ? 'at_speed' : null;
}

/** The case that fails in the workbench, offered as what is wrong on the road. */
export function Offered({ onAdd }: { readonly onAdd: (finding: NewFinding) => void }) {
  const shown = useShownCase();
  const entry = useSession((s) => s.build.cases.find((one) => one.id === shown?.id));
  if (!shown || !entry || shown.verdict !== 'fails') return null;
  const when = whenOf(entry);
  return (
    <Paragraph size="small" marginTop="2">
      The workbench says that {entry.name} fails.{' '}
      <Button
        look="bare"
        paddingInline="0"
        onClick={() => {
          onAdd({ kind: 'seen', observation: 'complaint', value: 'runs_hot' });
          if (when) onAdd({ kind: 'seen', observation: 'when_hot', value: when });
        }}
      >
        It is so on the road
      </Button>
    </Paragraph>
  );
}
