/** A course read at a moment, and what the driver would feel and see then. */

import type { DriveCourse } from '../api/types';

type Points = DriveCourse['points'];
export interface Moment {
  readonly top: number;
  readonly bottom: number;
  readonly metal: number;
  readonly lift: number;
  readonly stage: number;
  readonly flow: number;
  readonly pressure: number;
  readonly toBoiling: number;
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

export function momentAt(points: Points, time: number): Moment {
  const i = indexAt(points.time_s, time);
  const of = (values: readonly number[]) => values[i] ?? 0;
  return {
    top: of(points.top_hose_c),
    bottom: of(points.bottom_hose_c),
    metal: of(points.metal_c),
    lift: of(points.thermostat_lift),
    stage: of(points.fan_stage),
    flow: of(points.coolant_flow_l_per_min),
    pressure: of(points.pressure_kpa),
    toBoiling: of(points.boiling_margin_k),
  };
}

/** A hose under the hand. Common practice: one at temperature can be held for a couple of seconds. */
export function felt(celsius: number): string {
  if (celsius < 30) return 'cold';
  if (celsius < 45) return 'warm';
  if (celsius < 60) return 'hot, can be held';
  return 'too hot to hold for more than a couple of seconds';
}

/** A dashboard gauge that reads normal from 60 to 110 °C, as many do (common practice). */
export function gauge(celsius: number): string {
  if (celsius < 60) return 'cold';
  return celsius <= 110 ? 'normal' : 'hot';
}
