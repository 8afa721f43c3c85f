/** Between when something is expected at a step, in seconds from its timer's start, by this build's own drives. */

import type { Band } from '../../kit/steps/BandTimer';
import type { Filling, FitStep, TimeBand } from '../../model/api/types';
import { type JobStanding, seconds, standingStep } from '../../model/jobs/standing';

export interface Expected {
  readonly band: Band | null;
  readonly of: string;
}

/** The drives of a filling end after an hour and a half: what lies there lies there or later. */
const DRIVEN = 5399;
export const HOLD: Band = { low: 1800, high: Number.POSITIVE_INFINITY, waits: true };
const VENT: Band = { low: 600, high: 900, waits: true };
/** What should have come about already is looked for so long. */
const SOON = 60;
/** A quarter of an hour at the very least before a cap is touched. */
const LEAST_COOLING = 900;

/** Whether no end is known of when something comes about. */
export const openEnded = (found: TimeBand): boolean => found.high_s >= DRIVEN;

const band = (found: TimeBand | null | undefined): Band | null =>
  found
    ? { low: found.low_s, high: openEnded(found) ? Number.POSITIVE_INFINITY : found.high_s }
    : null;

/** As long after the first run began the engine has stood meanwhile. */
const ANOTHER_RUN = 3 * 3600;

/** Seconds that the engine has run already when the clock begins beside which one watches the fan: it idled before, until
 * the thermostat opened. Nothing where that is not done, or was another run. */
function ranBefore(filling: Filling, standing: JobStanding): number {
  const idle = standingStep(standing, 'idle');
  if (idle.state !== 'ticked') return 0;
  const begins = standingStep(standing, 'fan_watch').ranFrom ?? idle.at;
  if (!idle.ranFrom || !begins) return filling.opens?.likely_s ?? 0;
  const ran = seconds(idle.ranFrom, begins);
  return ran > 0 && ran < ANOTHER_RUN ? ran : 0;
}

function fanBand(filling: Filling, standing: JobStanding): Band | null {
  const cold = band(filling.fan_on);
  const ran = ranBefore(filling, standing);
  return cold && { low: Math.max(cold.low - ran, 0), high: Math.max(cold.high - ran, SOON) };
}

export function expectedAt(
  step: FitStep,
  filling: Filling | null,
  standing: JobStanding,
): Expected | null {
  switch (step.timer) {
    case 'hold':
      return { band: HOLD, of: 'held long enough' };
    case 'vent_run':
      return { band: VENT, of: 'the air is out' };
    case 'opens':
      return { band: band(filling?.opens), of: 'the thermostat opens' };
    case 'fan_on':
      return { band: filling && fanBand(filling, standing), of: 'the fan comes on' };
    case 'second':
      return { band: band(filling?.fan_on ?? filling?.lower_warm), of: 'it is warm through' };
    case 'safe': {
      const safe = filling?.safe_after_s;
      if (!safe) return { band: null, of: 'the cap may be touched' };
      const low = Math.max(safe, LEAST_COOLING);
      const high = Math.max(1.4 * safe, low + 600);
      return { band: { low, high, waits: true }, of: 'the cap may be touched' };
    }
    default:
      return null;
  }
}
