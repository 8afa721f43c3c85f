import { Box, Button, Grid, Heading, Row, Slider, Tick, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import type { Drive, FaultOutcome, LegFault } from '../../model/api/types';
import { clock, switched } from '../../model/document/drives';
import { fieldSpec } from '../../model/document/fields';
import { formatQuantity } from '../../model/units/format';
import { METRIC } from '../../model/units/quantities';

const LATEST = 14400; // s, as long as a drive may last
const MIDDLING = 0.5; // how bad a fault begins that there can be more or less of

type Name = LegFault['fault'];

const allowed = (field: 'severity_share' | 'from_s', name: Name) =>
  fieldSpec(`/drives/0/faults/0/${field}`).relevantWhen?.fault?.includes(name) ?? true;
/** Whether there can be more or less of a fault. */
export const graded = (name: Name) => allowed('severity_share', name);
/** Whether a fault can begin on the way; the others are there for the whole drive. */
export const begins = (name: Name) => allowed('from_s', name);

/** What can break, in the order in which coolant meets it. */
export const faultGroups = fieldSpec('/drives/0/faults/0/fault').groups as readonly (readonly [
  string,
  readonly Name[],
])[];

/** Faults switched on and off, each with how bad it is and from when; only those of parts that are there. */
export function Faults({
  drive,
  length,
  possible,
  trying,
  alone,
  onTry,
  onChange,
}: {
  readonly drive: Drive;
  /** Of the whole drive, s. */
  readonly length: number;
  /** Faults of parts that the variant has. */
  readonly possible: readonly Name[];
  /** Whether each fault says what it alone would come to, and that once it is known. */
  readonly trying: boolean;
  readonly alone: readonly FaultOutcome[] | null;
  readonly onTry: () => void;
  readonly onChange: (drive: Drive) => void;
}) {
  const labels = fieldSpec('/drives/0/faults/0/fault').labels;
  const present = new Map((drive.faults ?? []).map((entry) => [entry.fault, entry]));
  const outcomes = new Map((alone ?? []).map((entry) => [entry.fault, entry]));
  const set = (name: Name, changes: Partial<LegFault>) =>
    onChange({
      ...drive,
      faults: (drive.faults ?? []).map((entry) =>
        entry.fault === name ? { ...entry, ...changes } : entry,
      ),
    });
  return (
    <Box as="section" aria-label="What breaks" marginTop="3">
      <Row flexWrap="wrap" justifyContent="space-between">
        <Heading>What breaks</Heading>
        <Button look="bare" aria-pressed={trying} onClick={onTry}>
          {trying ? (alone ? 'Hide what each does' : 'Driving each…') : 'What would each do?'}
        </Button>
      </Row>
      {trying && (
        <Words size="small" tone="quiet" display="block">
          Driven with each fault alone; with those that can be worse, at half of it.
        </Words>
      )}
      {faultGroups.map(([title, names]) => (
        <Box key={title} as="fieldset" marginTop="1">
          <Words as="legend" size="small" tone="quiet" padding="0">
            {title}
          </Words>
          <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))" columnGap="3">
            {names
              .filter((name) => present.has(name) || possible.includes(name))
              .map((name) => (
                <FaultSwitch
                  key={name}
                  name={name}
                  says={labels?.[name] ?? name}
                  fault={present.get(name)}
                  alone={outcomes.get(name)}
                  length={length}
                  onSwitch={(on) =>
                    onChange(switched(drive, name, on, graded(name) ? MIDDLING : 1))
                  }
                  onSet={(changes) => set(name, changes)}
                />
              ))}
          </Grid>
        </Box>
      ))}
    </Box>
  );
}

function FaultSwitch({
  name,
  says,
  fault,
  alone,
  length,
  onSwitch,
  onSet,
}: {
  readonly name: Name;
  readonly says: string;
  readonly fault: LegFault | undefined;
  readonly alone: FaultOutcome | undefined;
  readonly length: number;
  readonly onSwitch: (on: boolean) => void;
  readonly onSet: (changes: Partial<LegFault>) => void;
}) {
  return (
    <Box gridColumn={fault ? '1 / -1' : undefined}>
      <Row as="label" gap="2" minHeight="target">
        <Tick
          type="checkbox"
          flexShrink={0}
          checked={fault !== undefined}
          onChange={(event) => onSwitch(event.target.checked)}
        />
        <Words>
          {says}
          {alone && (
            <Words
              size="small"
              display="block"
              tone={alone.worse && alone.time_to_limit_s !== null ? 'fails' : 'quiet'}
            >
              by itself up to <Quantity value={alone.hottest_c} kind="temperature" />
              {alone.runs_dry ? ', runs dry' : alone.boils && ', boils'}
              {!alone.worse && ', no worse than without it'}
            </Words>
          )}
        </Words>
      </Row>
      {fault && (
        <Box paddingLeft="6" marginBottom="2">
          {graded(name) && (
            <Share
              label={`How bad: ${says}`}
              shown={formatQuantity(fault.severity_share ?? 1, 'share', METRIC)}
              most={1}
              step={0.05}
              value={fault.severity_share ?? 1}
              onChange={(severity_share) => onSet({ severity_share })}
            />
          )}
          {begins(name) ? (
            <Share
              label={`From when: ${says}`}
              shown={`from ${clock(fault.from_s ?? 0)}`}
              most={Math.min(length, LATEST)}
              step={15}
              value={fault.from_s ?? 0}
              onChange={(from_s) => onSet({ from_s })}
            />
          ) : (
            <Words size="small" tone="quiet">
              for the whole drive
            </Words>
          )}
        </Box>
      )}
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
