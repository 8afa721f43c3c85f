import { describe, expect, it } from 'vitest';
import type { Build, DriveCourse } from '../api/types';
import { newBuild } from '../workbench/newBuild';
import { fanStretches } from './CourseChart';
import { felt, gauge, indexAt, momentAt } from './course';
import { clock, firstScript, fitting, switched } from './script';

const build: Build = newBuild('Fern', '');

describe('a drive', () => {
  it('begins with the cases of the build and ends with a stop', () => {
    const script = firstScript(build);
    expect(script.legs.length).toBe(build.cases.length + 1);
    expect(script.legs.at(-1)?.engine_runs).toBe(false);
    expect(script.legs.slice(0, -1).every((leg) => leg.engine_runs)).toBe(true);
  });

  it('drops legs of cases that are gone, and begins again where none is left', () => {
    const script = firstScript(build);
    const fewer = { ...build, cases: build.cases.slice(0, 1) };
    expect(fitting(script, fewer).legs.every((leg) => leg.case_id === fewer.cases[0]?.id)).toBe(
      true,
    );
    const other = {
      ...build,
      cases: build.cases.map((entry, i) => ({ ...entry, id: `new-${i}` })),
    };
    expect(fitting(script, other)).toEqual(firstScript(other));
  });

  it('has a fault once, and loses it again', () => {
    const once = switched(switched(firstScript(build), 'fan_dead', true), 'fan_dead', true);
    expect(once.faults?.map((entry) => entry.fault)).toEqual(['fan_dead']);
    expect(switched(once, 'fan_dead', false).faults).toEqual([]);
  });

  it.each([
    [0, '00:00'],
    [61.9, '01:01'],
    [3600, '60:00'],
  ])('%d s read as %s', (seconds, text) => expect(clock(seconds)).toBe(text));
});

const points = {
  time_s: [0, 10, 20, 30, 40],
  metal_c: [20, 40, 60, 80, 90],
  top_hose_c: [20, 30, 50, 70, 85],
  bottom_hose_c: [20, 20, 21, 22, 40],
  thermostat_lift: [0, 0, 0, 0, 0.2],
  fan_stage: [0, 1, 1, 0, 1],
  coolant_flow_l_per_min: [1, 1, 1, 1, 9],
  pressure_kpa: [0, 5, 9, 20, 40],
  boiling_margin_k: [90, 80, 70, 60, 50],
  shed_kw: [0, 0, 0, 1, 9],
} as unknown as DriveCourse['points'];

describe('a course', () => {
  it('is read at the point that is not after the play head', () => {
    expect([-5, 0, 9.9, 10, 39, 400].map((time) => indexAt(points.time_s, time))).toEqual([
      0, 0, 0, 1, 3, 4,
    ]);
    expect(momentAt(points, 25).top).toBe(50);
    expect(momentAt(points, 25).stage).toBe(1);
  });

  it('knows when the fan runs', () => {
    expect(fanStretches(points)).toEqual([
      [10, 30],
      [40, 40],
    ]);
  });

  it('says what a hand feels and a gauge shows', () => {
    expect([20, 40, 50, 90].map(felt)).toEqual([
      'cold',
      'warm',
      'hot, can be held',
      'too hot to hold for more than a couple of seconds',
    ]);
    expect([59, 60, 110, 111].map(gauge)).toEqual(['cold', 'normal', 'normal', 'hot']);
  });
});
