import { describe, expect, it } from 'vitest';
import type { JobEntry } from '../api/types';
import { changesOf, nextStep, standingOfJob, standingStep } from './standing';

let n = 0;
const at = (minute: number) => `2026-05-14T09:${String(minute).padStart(2, '0')}:00Z`;
const entry = (kind: JobEntry['kind'], more: Partial<JobEntry> = {}): JobEntry =>
  ({ id: `e${n++}`, at: at(0), kind, by: '', note: '', figures: {}, ...more }) as JobEntry;

describe('where what was written leaves a job', () => {
  it('takes the last word on a step, and keeps what was noted', () => {
    const standing = standingOfJob([
      entry('ticked', { step: 'park', by: 'Ada' }),
      entry('note', { step: 'park', note: 'on gravel' }),
      entry('undone', { step: 'park' }),
      entry('skipped', { step: 'park', note: 'it stands in a pit', by: 'Bo' }),
    ]);
    const park = standingStep(standing, 'park');
    expect(park).toMatchObject({ state: 'skipped', reason: 'it stands in a pit', by: 'Bo' });
    expect(park.notes.map((one) => one.note)).toEqual(['on gravel']);
    expect(standingStep(standing, 'cold').state).toBe('open');
  });

  it('waits at the first step that is open, whatever was ticked behind it', () => {
    const plan = { steps: ['park', 'cold', 'ramps'] } as NonNullable<JobEntry['plan']>;
    const ticking = (...ticked: string[]) =>
      nextStep(
        standingOfJob([
          entry('planned', { plan }),
          ...ticked.map((step) => entry('ticked', { step })),
        ]),
      );
    expect(ticking()).toEqual({ number: 1, of: 3 });
    expect(ticking('park', 'ramps')).toEqual({ number: 2, of: 3 });
    expect(ticking('park', 'cold')).toEqual({ number: 3, of: 3 });
    expect(ticking('ramps', 'cold', 'park')).toBeNull();
    expect(nextStep(standingOfJob([]))).toBeNull();
  });

  it('times a step from its start, whatever comes between', () => {
    const standing = standingOfJob([
      entry('started', { step: 'idle', at: at(2) }),
      entry('moment', { step: 'idle', event: 'opens', at: at(13) }),
      entry('ticked', { step: 'idle', at: at(20) }),
      entry('moment', { step: 'idle', event: 'late', at: at(30) }),
    ]);
    const idle = standingStep(standing, 'idle');
    expect(idle.moments).toEqual({ opens: 660 });
    expect(idle.took).toBe(1080);
    expect(idle.startedAt).toBeNull();
  });

  it('begins a clock anew without what happened before', () => {
    const standing = standingOfJob([
      entry('started', { step: 'idle', at: at(2) }),
      entry('moment', { step: 'idle', event: 'opens', at: at(13) }),
      entry('started', { step: 'idle', at: at(40) }),
    ]);
    expect(standingStep(standing, 'idle').moments).toEqual({});
  });

  it('lets a hold begin anew once it is proved', () => {
    const gauge = (value: number) => entry('gauge', { value });
    const standing = standingOfJob([
      gauge(100),
      gauge(99),
      entry('proof', { proof: 'hold', verdict: 'pass' }),
      gauge(80),
    ]);
    expect(standing.gauge.map((one) => one.value)).toEqual([80]);
    expect(standing.proofs).toHaveLength(1);
  });

  it('reads a gauge in the order of its times, whoever sent first', () => {
    const gauge = (minute: number) => entry('gauge', { value: minute, at: at(minute) });
    const standing = standingOfJob([gauge(0), gauge(20), gauge(5), gauge(10)]);
    expect(standing.gauge.map((one) => one.value)).toEqual([0, 5, 10, 20]);
  });

  it('counts nothing that was taken back, and a hold is not proved by what was', () => {
    const wrong = entry('gauge', { value: 1000 });
    const proof = entry('proof', { proof: 'hold', verdict: 'pass' });
    const note = entry('note', { step: 'park', note: 'on gravel' });
    const back = (of: JobEntry) => entry('taken_back', { of: of.id });
    const standing = standingOfJob([
      entry('gauge', { value: 100 }),
      wrong,
      back(wrong),
      note,
      back(note),
      proof,
      back(proof),
      entry('gauge', { value: 99 }),
    ]);
    expect(standing.gauge.map((one) => one.value)).toEqual([100, 99]);
    expect(standing.proofs).toEqual([]);
    expect(standingStep(standing, 'park').notes).toEqual([]);
  });

  it('keeps what was paid when a part changes its state', () => {
    const part = (more: Partial<JobEntry>) => entry('part', { line: 'radiator', ...more });
    const standing = standingOfJob([
      part({ state: 'here', price: 498 }),
      part({ state: 'fitted' }),
    ]);
    expect(standing.parts.radiator).toMatchObject({ state: 'fitted', price: 498 });
  });

  it('says what a plan has gained and lost since it was taken', () => {
    const plan = { revision: 1, standing: 'a', variant: 'b', school: 'usual', steps: ['x', 'y'] };
    const { plan: taken } = standingOfJob([entry('planned', { plan } as Partial<JobEntry>)]);
    expect(changesOf(taken, ['y', 'z'])).toEqual({ more: ['z'], less: ['x'] });
    expect(changesOf(null, ['y'])).toEqual({ more: [], less: [] });
  });
});
