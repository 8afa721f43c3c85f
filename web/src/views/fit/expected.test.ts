import { describe, expect, it } from 'vitest';
import type { Filling, FitStep, JobEntry } from '../../model/api/types';
import { standingOfJob } from '../../model/jobs/standing';
import { expectedAt } from './expected';

const step = (timer: string) => ({ timer }) as FitStep;
const within = (low_s: number, high_s: number) => ({
  likely_s: (low_s + high_s) / 2,
  low_s,
  high_s,
});
const filling = {
  opens: within(1000, 1400),
  fan_on: within(2400, 3000),
  safe_after_s: 6000,
} as Filling;

let n = 0;
const entry = (minute: number, kind: JobEntry['kind'], id: string) =>
  ({ id: `e${n++}`, kind, step: id, at: new Date(60_000 * minute).toISOString() }) as JobEntry;
const fan = (...entries: JobEntry[]) =>
  expectedAt(step('fan_on'), filling, standingOfJob(entries))?.band;

describe('when something is expected', () => {
  it('is open where the drives end before it', () => {
    const late = { ...filling, opens: within(2000, 5400) };
    expect(expectedAt(step('opens'), late, standingOfJob([]))?.band).toEqual({
      low: 2000,
      high: Number.POSITIVE_INFINITY,
    });
  });

  it('is no less than a quarter of an hour for a cap', () => {
    const safe = (safe_after_s: number) =>
      expectedAt(step('safe'), { ...filling, safe_after_s }, standingOfJob([]))?.band;
    expect(safe(100)).toEqual({ low: 900, high: 1500, waits: true });
    expect(safe(6000)).toEqual({ low: 6000, high: 8400, waits: true });
  });

  it('is sooner of a fan that is watched once the engine has run', () => {
    // Its own run from cold, where nothing ran before.
    expect(fan()).toEqual({ low: 2400, high: 3000 });
    const idled = [entry(0, 'started', 'idle'), entry(25, 'ticked', 'idle')];
    expect(fan(...idled)).toEqual({ low: 900, high: 1500 });
    expect(fan(...idled, entry(30, 'started', 'fan_watch'))).toEqual({ low: 600, high: 1200 });
    expect(fan(...idled, entry(45, 'started', 'fan_watch'))).toEqual({ low: 0, high: 300 });
    expect(fan(...idled, entry(55, 'started', 'fan_watch'))).toEqual({ low: 0, high: 60 });
    // Idled without a clock it has run until the thermostat opened; the next morning it is cold again.
    expect(fan(entry(25, 'ticked', 'idle'))).toEqual({ low: 1200, high: 1800 });
    expect(fan(...idled, entry(600, 'started', 'fan_watch'))).toEqual({ low: 2400, high: 3000 });
    expect(fan(entry(25, 'skipped', 'idle'))).toEqual({ low: 2400, high: 3000 });
  });
});
