import { useState } from 'react';
import type { Leg, Script } from '../api/types';
import { Box, Button, Heading, Input, Row, Select, Tick, Words } from '../theme/primitives';
import { editable } from '../units/format';
import { parseQuantity } from '../units/parse';
import { METRIC } from '../units/quantities';
import { useSession } from '../workbench/context';

const MOST_LEGS = 60;
const [LEAST, MOST] = [5, 7200];

/** The legs of a drive, a row each: which case, how long, engine running or not. */
export function LegRows({
  script,
  onChange,
}: {
  readonly script: Script;
  readonly onChange: (script: Script) => void;
}) {
  const cases = useSession((s) => s.build.cases);
  const set = (i: number, leg: Leg | null) =>
    onChange({
      ...script,
      legs: script.legs.flatMap((entry, k) => (k === i ? (leg ? [leg] : []) : [entry])),
    });
  return (
    <Box as="section" aria-label="Legs">
      <Heading>Legs</Heading>
      <ol>
        {script.legs.map((leg, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: legs are told apart by their place alone
          <li key={i}>
            <Row gap="2" marginTop="1">
              <Select
                aria-label={`Leg ${i + 1}`}
                value={leg.case_id ?? ''}
                onChange={(event) => set(i, { ...leg, case_id: event.target.value, case: null })}
              >
                {cases.map((entry) => (
                  <option key={entry.id} value={entry.id}>
                    {entry.name}
                  </option>
                ))}
              </Select>
              <Minutes
                label={`Minutes of leg ${i + 1}`}
                seconds={leg.duration_s ?? 300}
                onChange={(duration_s) => set(i, { ...leg, duration_s })}
              />
              <Row as="span" gap="1" title="Engine running">
                <Tick
                  type="checkbox"
                  aria-label={`Engine runs in leg ${i + 1}`}
                  checked={leg.engine_runs ?? true}
                  onChange={(event) => set(i, { ...leg, engine_runs: event.target.checked })}
                />
              </Row>
              <Button
                look="bare"
                disabled={script.legs.length === 1}
                aria-label={`Remove leg ${i + 1}`}
                onClick={() => set(i, null)}
              >
                ×
              </Button>
            </Row>
          </li>
        ))}
      </ol>
      <Row justifyContent="space-between" marginTop="1">
        <Button
          look="bare"
          disabled={script.legs.length >= MOST_LEGS}
          onClick={() => {
            const last = script.legs.at(-1);
            if (last)
              onChange({ ...script, legs: [...script.legs, { ...last, engine_runs: true }] });
          }}
        >
          + leg
        </Button>
        <Words size="small" tone="quiet">
          case · minutes · engine running
        </Words>
      </Row>
    </Box>
  );
}

function Minutes({
  label,
  seconds,
  onChange,
}: {
  readonly label: string;
  readonly seconds: number;
  readonly onChange: (seconds: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const parsed = typed === null ? null : parseQuantity(typed, 'minutes', METRIC);
  const value = parsed?.ok ? parsed.value * 60 : Number.NaN;
  const wrong = typed !== null && !(value >= LEAST && value <= MOST);
  return (
    <Input
      aria-label={label}
      width="72px"
      flexShrink={0}
      textAlign="right"
      paddingInline="2"
      value={typed ?? editable(seconds / 60, 'minutes', METRIC)}
      aria-invalid={wrong || undefined}
      title="5 seconds to 2 hours"
      onChange={(event) => {
        setTyped(event.target.value);
        const next = parseQuantity(event.target.value, 'minutes', METRIC);
        if (next.ok && next.value * 60 >= LEAST && next.value * 60 <= MOST)
          onChange(next.value * 60);
      }}
      onBlur={() => !wrong && setTyped(null)}
    />
  );
}
