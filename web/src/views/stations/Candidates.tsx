import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Box, Button, Heading, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { Text } from '../../model/api/types';
import { useSession } from '../../model/save/context';
import { useTaken } from '../../model/save/useTaken';

const Rows = chakra('ul', { base: { marginTop: '2' } });

function Candidate({
  name,
  text,
  chosen,
  fitted,
  onTake,
}: {
  readonly name: ReactNode;
  readonly text: Text;
  readonly chosen: boolean;
  readonly fitted: boolean;
  readonly onTake: () => void;
}) {
  return (
    <Box
      as="li"
      display="grid"
      gridTemplateColumns="116px minmax(0,1fr) 64px"
      alignItems="center"
      columnGap="3"
      minHeight="target"
      borderTop="1px solid"
      borderColor="rule"
    >
      <Words
        fontWeight={chosen ? 'strong' : 'plain'}
        tone={chosen ? 'accent' : 'ink'}
        whiteSpace="nowrap"
      >
        {name}
      </Words>
      <Words size="small" tone={chosen ? 'ink' : 'quiet'} fontWeight={chosen ? 'firm' : 'plain'}>
        <Sentence text={text} />
      </Words>
      {fitted ? (
        <Words size="small" tone="quiet" textAlign="center">
          fitted
        </Words>
      ) : (
        <Button look="bare" onClick={onTake}>
          fit it
        </Button>
      )}
    </Box>
  );
}

const near = (a: number | null | undefined, b: number) => a != null && Math.abs(a - b) < 0.05;

/** Sets several fields of the shown variant as one step. */
function useFit() {
  const build = useSession((s) => s.build);
  const index = useSession((s) => s.variant);
  const setBuild = useSession((s) => s.setBuild);
  return (part: 'cap' | 'thermostat' | 'fan_switch', values: Record<string, number | null>) =>
    setBuild({
      ...build,
      variants: build.variants.map((variant, i) =>
        i === index ? { ...variant, [part]: { ...variant[part], ...values } } : variant,
      ),
    });
}

export function CapCandidates() {
  const caps = useSession((s) => s.evaluation?.caps) ?? [];
  const now = useTaken('cap/pressure_kpa');
  const take = useFit();
  return (
    <>
      <Heading marginTop="3">Caps that were weighed</Heading>
      <Words size="small" tone="quiet">
        For top hoses up to their limit: what goes beyond it is not the cap’s to mend.
      </Words>
      <Rows aria-label="Caps">
        {caps.map((cap) => (
          <Candidate
            key={cap.pressure_kpa}
            name={<Quantity value={cap.pressure_kpa} kind="pressure" />}
            text={cap.text ?? []}
            chosen={cap.reason === 'chosen'}
            fitted={near(now, cap.pressure_kpa)}
            onTake={() => take('cap', { pressure_kpa: cap.pressure_kpa })}
          />
        ))}
      </Rows>
    </>
  );
}

export function ThermostatCandidates() {
  const thermostats = useSession((s) => s.evaluation?.thermostats) ?? [];
  const switches = useSession((s) => s.evaluation?.switches) ?? [];
  const opens = useTaken('thermostat/opens_c');
  const [on, off] = [useTaken('fan_switch/on_c'), useTaken('fan_switch/off_c')];
  const take = useFit();
  return (
    <>
      <Heading marginTop="3">Thermostats that were weighed</Heading>
      <Rows aria-label="Thermostats">
        {thermostats.map((t) => (
          <Candidate
            key={t.opens_c}
            name={<Quantity value={t.opens_c} kind="temperature" />}
            text={t.text ?? []}
            chosen={t.reason === 'chosen'}
            fitted={near(opens, t.opens_c)}
            onTake={() => take('thermostat', { opens_c: t.opens_c })}
          />
        ))}
      </Rows>
      <Heading marginTop="4">Fan switches that were weighed</Heading>
      <Rows aria-label="Fan switches">
        {switches.map((s) => (
          <Candidate
            key={`${s.on_c} ${s.off_c}`}
            name={
              <>
                on <Quantity value={s.on_c} kind="temperature" bare />, off{' '}
                <Quantity value={s.off_c} kind="temperature" />
              </>
            }
            text={s.text ?? []}
            chosen={s.reason === 'chosen'}
            fitted={near(on, s.on_c) && near(off, s.off_c)}
            onTake={() =>
              take('fan_switch', {
                on_c: s.on_c,
                off_c: s.off_c,
                full_on_c: null,
                full_off_c: null,
              })
            }
          />
        ))}
      </Rows>
    </>
  );
}
