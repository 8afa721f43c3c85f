import { useEffect, useRef, useState } from 'react';
import { Labelled, TickField } from '../../kit/field/Labelled';
import { refused } from '../../kit/field/useNumberText';
import { Box, Grid, Heading, Input, Select, Words } from '../../kit/primitives';
import type { Wishes } from '../../model/api/types';
import { wishSpec } from '../../model/document/fields';
import { editable } from '../../model/units/format';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

type Numbers =
  | 'margin_k'
  | 'chance_share'
  | 'budget'
  | 'electric_w'
  | 'width_mm'
  | 'height_mm'
  | 'depth_mm';
type Choices = 'by' | 'cores' | 'coolant';
type Slot = NonNullable<Wishes['keep']>[number];

const KEPT: readonly (readonly [Slot, string])[] = [
  ['radiator', 'core'],
  ['fan', 'fan'],
  ['shroud', 'shroud'],
  ['pump', 'pump'],
  ['thermostat', 'thermostat'],
  ['fan_switch', 'fan switch'],
  ['cap', 'cap'],
];

/** What the parts must keep to, in the builder's words. */
export function WishFields({
  wishes,
  onChange,
  onWrong,
}: {
  readonly wishes: Wishes;
  readonly onChange: (wishes: Wishes) => void;
  /** A field can no longer be read, or can again. */
  readonly onWrong: (name: string, wrong: boolean) => void;
}) {
  const number = (name: Numbers, short?: string) => (
    <NumberWish
      key={name}
      name={name}
      label={short}
      value={wishes[name] ?? null}
      onChange={(value) => onChange({ ...wishes, [name]: value })}
      onWrong={(wrong) => onWrong(name, wrong)}
    />
  );
  const choice = (name: Choices) => (
    <ChoiceWish
      name={name}
      value={String(wishes[name] ?? wishSpec(name).initial)}
      onChange={(value) => onChange({ ...wishes, [name]: value } as Wishes)}
    />
  );
  const kept = new Set(wishes.keep ?? []);
  return (
    <>
      {choice('by')}
      <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))" columnGap="3">
        {wishes.by === 'margin'
          ? number('margin_k', 'Margin')
          : number('chance_share', 'Chance it holds')}
        {number('budget')}
      </Grid>
      {number('electric_w')}
      <Heading marginTop="3">Room for the core</Heading>
      <Grid gridTemplateColumns="repeat(3, minmax(0,1fr))" columnGap="2">
        {number('width_mm', 'Width')}
        {number('height_mm', 'Height')}
        {number('depth_mm', 'Depth')}
      </Grid>
      <Words size="small" tone="quiet" display="block">
        Left empty: what was measured in the car, else the fitted core.
      </Words>
      <Heading marginTop="3">What may be taken</Heading>
      {choice('cores')}
      {choice('coolant')}
      <Box as="fieldset" marginTop="3">
        <Heading as="legend" padding="0">
          What stays
        </Heading>
        <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))">
          {KEPT.map(([slot, name]) => (
            <KeepWish
              key={slot}
              name={name}
              kept={kept.has(slot)}
              onChange={(on) =>
                onChange({
                  ...wishes,
                  keep: KEPT.map(([other]) => other).filter((other) =>
                    other === slot ? on : kept.has(other),
                  ),
                })
              }
            />
          ))}
        </Grid>
      </Box>
    </>
  );
}

function NumberWish({
  name,
  label,
  value,
  onChange,
  onWrong,
}: {
  readonly name: Numbers;
  readonly label?: string | undefined;
  readonly value: number | null;
  readonly onChange: (value: number | null) => void;
  readonly onWrong: (wrong: boolean) => void;
}) {
  const spec = wishSpec(name);
  const units = useUnits((u) => u.units);
  const [typed, setTyped] = useState<string | null>(null);
  const telling = useRef(onWrong);
  telling.current = onWrong;
  // A wish that is no longer asked for stands in nobody's way.
  useEffect(() => () => telling.current(false), []);
  const mayBeEmpty = spec.nullMeans !== null;
  const stored = value === null ? '' : editable(value, spec.quantity, units);
  const wrong =
    typed === null || (typed.trim() === '' && mayBeEmpty) ? null : refused(typed, spec, units);

  function change(text: string) {
    setTyped(text);
    const empty = text.trim() === '' && mayBeEmpty;
    const refusal = empty ? null : refused(text, spec, units);
    onWrong(refusal !== null);
    if (refusal !== null) return;
    const parsed = parseQuantity(text, spec.quantity, units);
    onChange(empty ? null : parsed.ok ? parsed.value : null);
  }

  return (
    <Labelled
      quiet
      label={label ?? spec.title}
      unit={shownUnit(spec.quantity, units).symbol}
      wrong={wrong}
      help={spec.description}
      marginTop="2"
    >
      <Input
        value={typed ?? stored}
        autoComplete="off"
        placeholder={spec.nullMeans && spec.quantity !== 'length' ? spec.nullMeans : ''}
        paddingInline="2"
        paddingRight="34px"
        onChange={(event) => change(event.target.value)}
        onBlur={() => wrong === null && setTyped(null)}
      />
    </Labelled>
  );
}

function ChoiceWish({
  name,
  value,
  onChange,
}: {
  readonly name: Choices;
  readonly value: string;
  readonly onChange: (value: string) => void;
}) {
  const spec = wishSpec(name);
  return (
    <Labelled quiet label={spec.title} help={spec.description} marginTop="2">
      <Select value={value} onChange={(event) => onChange(event.target.value)}>
        {Object.entries(spec.labels ?? {}).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

function KeepWish({
  name,
  kept,
  onChange,
}: {
  readonly name: string;
  readonly kept: boolean;
  readonly onChange: (kept: boolean) => void;
}) {
  return (
    <TickField label={name} checked={kept} onChange={(event) => onChange(event.target.checked)} />
  );
}
