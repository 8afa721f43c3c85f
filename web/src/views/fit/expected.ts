/** Between when something is expected at a step, in seconds from its timer's start, by this build's own drives. */

import type { Band } from '../../kit/steps/BandTimer';
import type { Filling, FitStep, TimeBand } from '../../model/api/types';

export interface Expected {
  readonly band: Band | null;
  readonly of: string;
}

const HOLD = { low: 1800, high: 1860 };
const VENT = { low: 600, high: 900 };
/** A quarter of an hour at the very least before a cap is touched. */
const LEAST_COOLING = 900;

const band = (found: TimeBand | null | undefined): Band | null =>
  found ? { low: found.low_s, high: found.high_s } : null;

export function expectedAt(step: FitStep, filling: Filling | null): Expected | null {
  switch (step.timer) {
    case 'hold':
      return { band: HOLD, of: 'held long enough' };
    case 'vent_run':
      return { band: VENT, of: 'the air is out' };
    case 'opens':
      return { band: band(filling?.opens), of: 'the thermostat opens' };
    case 'fan_on':
      return { band: band(filling?.fan_on), of: 'the fan comes on' };
    case 'second':
      return { band: band(filling?.fan_on ?? filling?.lower_warm), of: 'it is warm through' };
    case 'safe': {
      const safe = filling?.safe_after_s;
      if (!safe) return { band: null, of: 'the cap may be touched' };
      const low = Math.max(safe, LEAST_COOLING);
      return { band: { low, high: Math.max(1.4 * safe, low + 600) }, of: 'the cap may be touched' };
    }
    default:
      return null;
  }
}
