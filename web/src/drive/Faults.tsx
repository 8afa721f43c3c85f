import { faultSpec } from '../api/fields';
import type { LegFault, Script } from '../api/types';
import { Box, Grid, Heading, Row, Slider, Tick, Words } from '../theme/primitives';
import { formatQuantity } from '../units/format';
import { METRIC } from '../units/quantities';
import { clock, switched } from './script';

type Name = LegFault['fault'];

/** What can break, in the order in which coolant meets it; those with a severity have a slider. */
const FAULTS: readonly (readonly [Name, boolean])[] = [
  ['thermostat_shut', false],
  ['thermostat_open', false],
  ['thermostat_late', true],
  ['thermostat_leaks', true],
  ['core_silted', true],
  ['debris', true],
  ['fan_dead', false],
  ['fan_always_on', false],
  ['one_fan_dead', false],
  ['clutch_slips', true],
  ['clutch_locked', false],
  ['hose_collapsed', true],
  ['pump_worn', true],
  ['impeller_loose', true],
  ['belt_slips', true],
  ['cap_weak', true],
  ['cap_stuck', false],
  ['return_valve_dead', false],
  ['coolant_leak', true],
  ['head_gasket', true],
  ['timing_retarded', true],
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
  const { labels } = faultSpec('fault');
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
        {FAULTS.map(([name, graded]) => {
          const fault = present.get(name);
          const says = labels?.[name] ?? name;
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
