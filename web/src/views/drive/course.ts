/** A course read at a moment, and what the driver would feel and see then. */

import type { DriveCourse } from '../../model/api/types';

export type Points = DriveCourse['points'];
export interface Moment {
  readonly engineOut: number;
  readonly top: number;
  readonly bottom: number;
  readonly metal: number;
  readonly lift: number;
  readonly stage: number;
  /** Through the core, and in all, L/min. */
  readonly flow: number;
  readonly pumped: number;
  readonly pressure: number;
  readonly toBoiling: number;
  /** Coolant in the system, L. */
  readonly coolant: number;
  /** Air out of the cabin heater; null where it is never on. */
  readonly heaterAir: number | null;
  /** Id of the build's case that is driven then; null in a leg of its own. */
  readonly caseId: string | null;
}

/** When the longer of a course and the same without its faults ends, s: one that runs dry is over sooner. */
export function lastOf(course: DriveCourse, sound: DriveCourse | null): number {
  return Math.max(course.points.time_s.at(-1) ?? 0, sound?.points.time_s.at(-1) ?? 0);
}

/** Index of the last point that is not after a time. */
export function indexAt(times: readonly number[], time: number): number {
  let [low, high] = [0, times.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((times[middle] ?? 0) <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}

export function momentAt({ points, legs }: DriveCourse, time: number): Moment {
  const i = indexAt(points.time_s, time);
  const of = (values: readonly number[]) => values[i] ?? 0;
  return {
    engineOut: of(points.engine_out_c),
    top: of(points.top_hose_c),
    bottom: of(points.bottom_hose_c),
    metal: of(points.metal_c),
    lift: of(points.thermostat_lift),
    stage: of(points.fan_stage),
    flow: of(points.coolant_flow_l_per_min),
    pumped: of(points.pumped_l_per_min),
    pressure: of(points.pressure_kpa),
    toBoiling: of(points.boiling_margin_k),
    coolant: of(points.coolant_l),
    heaterAir: points.heater_air_c ? of(points.heater_air_c) : null,
    caseId: legs.filter((leg) => leg.from_s < Math.max(time, 1)).at(-1)?.case_id ?? null,
  };
}

/** Beginnings and ends [s] of the stretches in which the fan runs. */
export function fanStretches(points: Points): [number, number][] {
  const found: [number, number][] = [];
  let since: number | null = null;
  points.fan_stage.forEach((stage, i) => {
    const time = points.time_s[i] ?? 0;
    if (stage > 0 && since === null) since = time;
    if (stage === 0 && since !== null) {
      found.push([since, time]);
      since = null;
    }
  });
  if (since !== null) found.push([since, points.time_s.at(-1) ?? 0]);
  return found;
}

const CONTROL = [
  'thermostat_opens',
  'thermostat_wide_open',
  'thermostat_shuts',
  'fan_on',
  'fan_off',
];

/** The few events of many that are listed first, in their order. Of what thermostat and fan do as they should, and of a
 * cap that lifts, the first of each kind is told; of the rest what has not been told yet comes before what happens again:
 * nothing that happens once goes under in what happens thirty times. */
export function fewEvents(events: DriveCourse['events'], most: number): DriveCourse['events'] {
  if (events.length <= most) return events;
  const times = new Map<string, number>();
  const weighed = events.map((event) => {
    const before = times.get(event.kind) ?? 0;
    times.set(event.kind, before + 1);
    const calm = CONTROL.includes(event.kind) || (event.kind === 'cap_lifts' && before > 0);
    return { event, before, calm: Number(calm) };
  });
  const told = weighed.filter(({ calm, before }) => !calm || before === 0);
  told.sort((a, b) => a.calm - b.calm || a.before - b.before);
  const few = new Set(told.slice(0, most).map(({ event }) => event));
  return events.filter((event) => few.has(event));
}

/** Whether so little coolant is left at a time that the pump draws air. */
export function runsLow(course: DriveCourse, time: number): boolean {
  return course.events.some((event) => event.kind === 'runs_low' && event.time_s <= time);
}

/** A hose under the hand. Common practice: one at temperature can be held for a couple of seconds. */
export function felt(celsius: number): string {
  if (celsius < 30) return 'cold';
  if (celsius < 45) return 'warm';
  if (celsius < 60) return 'hot, can be held';
  return celsius < 95
    ? 'too hot to hold for more than a couple of seconds'
    : 'far too hot to touch';
}

/** A dashboard gauge that reads normal from 60 to 110 °C, as many do (common practice). */
export function gauge(celsius: number): string {
  if (celsius < 60) return 'cold';
  return celsius <= 110 ? 'normal' : 'hot';
}
