import type { LegFault, Script } from '../api/types';
import { Box, Grid, Heading, Row, Slider, Tick, Words } from '../theme/primitives';
import { formatQuantity } from '../units/format';
import { METRIC } from '../units/quantities';
import { clock, switched } from './script';

type Name = LegFault['fault'];

/** What can break, in the order in which coolant meets it; those with a severity have a slider. */
const FAULTS: readonly (readonly [Name, string, boolean])[] = [
  ['thermostat_shut', 'thermostat stuck shut', false],
  ['thermostat_open', 'thermostat stuck open', false],
  ['thermostat_late', 'thermostat opens late', true],
  ['thermostat_leaks', 'thermostat does not shut', true],
  ['core_silted', 'core silted', true],
  ['debris', 'debris on the core', true],
  ['fan_dead', 'fan dead: relay, fuse, motor', false],
  ['fan_always_on', 'fan always on', false],
  ['one_fan_dead', 'one of two fans dead', false],
  ['clutch_slips', 'fan clutch slips', true],
  ['clutch_locked', 'fan clutch locked', false],
  ['hose_collapsed', 'lower hose collapses', true],
  ['pump_worn', 'pump worn', true],
  ['impeller_loose', 'impeller loose', true],
  ['belt_slips', 'belt slips', true],
  ['cap_weak', 'cap weak', true],
  ['cap_stuck', 'cap stuck shut', false],
  ['return_valve_dead', 'return valve dead', false],
  ['coolant_leak', 'coolant leaks', true],
  ['head_gasket', 'head gasket leaks', true],
  ['timing_retarded', 'timing retarded', true],
];

/** Faults switched on and off, each with how bad it is and from when. */
export function Faults({
  script,
  length,
  onChange,
}: {
  readonly script: Script;
  /** Of the whole drive, s. */
  readonly length: number;
  readonly onChange: (script: Script) => void;
}) {
  const present = new Map((script.faults ?? []).map((entry) => [entry.fault, entry]));
  const set = (name: Name, changes: Partial<LegFault>) =>
    onChange({
      ...script,
      faults: (script.faults ?? []).map((entry) =>
        entry.fault === name ? { ...entry, ...changes } : entry,
      ),
    });
  return (
    <Box as="section" aria-label="What breaks" marginTop="3">
      <Heading>What breaks</Heading>
      <Grid gridTemplateColumns="repeat(auto-fill, minmax(210px, 1fr))" columnGap="3">
        {FAULTS.map(([name, says, graded]) => {
          const fault = present.get(name);
          return (
            <Box key={name}>
              <Row as="label" gap="2" minHeight="target">
                <Tick
                  type="checkbox"
                  checked={fault !== undefined}
                  onChange={(event) => onChange(switched(script, name, event.target.checked))}
                />
                <Words>{says}</Words>
              </Row>
              {fault && (
                <Box paddingLeft="6" marginBottom="2">
                  {graded && (
                    <Share
                      label={`How bad: ${says}`}
                      shown={formatQuantity(fault.severity_share ?? 1, 'share', METRIC)}
                      most={1}
                      step={0.05}
                      value={fault.severity_share ?? 1}
                      onChange={(severity_share) => set(name, { severity_share })}
                    />
                  )}
                  <Share
                    label={`From when: ${says}`}
                    shown={`from ${clock(fault.from_s ?? 0)}`}
                    most={length}
                    step={15}
                    value={fault.from_s ?? 0}
                    onChange={(from_s) => set(name, { from_s })}
                  />
                </Box>
              )}
            </Box>
          );
        })}
      </Grid>
    </Box>
  );
}

function Share({
  label,
  shown,
  most,
  step,
  value,
  onChange,
}: {
  readonly label: string;
  readonly shown: string;
  readonly most: number;
  readonly step: number;
  readonly value: number;
  readonly onChange: (value: number) => void;
}) {
  return (
    <Row gap="2">
      <Slider
        type="range"
        aria-label={label}
        aria-valuetext={shown}
        min={0}
        max={most}
        step={step}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <Words size="small" minWidth="72px">
        {shown}
      </Words>
    </Row>
  );
}
