/** Marks of the ladder that can be moved: a thermostat's opening and a fan's switching points. */

export interface Handle {
  readonly label: string;
  /** Within a variant. */
  readonly field: 'thermostat/opens_c' | 'fan_switch/on_c' | 'fan_switch/off_c';
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

const GAP = 1;

/** The handles of a ladder, each kept on its side of its partner. */
export function handlesOf(ladder: {
  readonly thermostat_opens_c: number;
  readonly fan_on_c: number | null;
  readonly fan_off_c: number | null;
}): Handle[] {
  const { thermostat_opens_c: opens, fan_on_c: on, fan_off_c: off } = ladder;
  const handles: Handle[] = [
    { label: 'Thermostat grip', field: 'thermostat/opens_c', value: opens, low: 40, high: 110 },
  ];
  if (on !== null && off !== null)
    handles.push(
      { label: 'Fan-on grip', field: 'fan_switch/on_c', value: on, low: off + GAP, high: 125 },
      { label: 'Fan-off grip', field: 'fan_switch/off_c', value: off, low: 45, high: on - GAP },
    );
  return handles;
}

/** A temperature that a hand can set: a whole step of the reader's unit, within the handle's ends. */
export function settable(
  handle: Handle,
  celsius: number,
  unit: { toDocument: (v: number) => number; fromDocument: (v: number) => number },
): number {
  const whole = unit.toDocument(Math.round(unit.fromDocument(celsius)));
  return Math.max(handle.low, Math.min(handle.high, whole));
}
