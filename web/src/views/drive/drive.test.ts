import { describe, expect, it } from 'vitest';
import type { Build, DriveCourse } from '../../model/api/types';
import {
  clock,
  duplicatedDrive,
  firstDrive,
  fitting,
  freeName,
  lasts,
  onlyDrivesDiffer,
  switched,
  templates,
} from '../../model/document/drives';
import { fieldSpec, isRelevant } from '../../model/document/fields';
import { newBuild } from '../../model/document/newBuild';
import { fanStretches, felt, fewEvents, gauge, indexAt, lastOf, momentAt, runsLow } from './course';
import { begins, faultGroups, graded } from './Faults';

const build: Build = newBuild('Fern', '');
const first = firstDrive(build);

describe('a drive', () => {
  it('begins with the cases of the build and ends with a stop', () => {
    expect(first.legs?.length).toBe(build.cases.length + 1);
    expect(first.legs?.at(-1)?.engine_runs).toBe(false);
    expect(first.legs?.slice(0, -1).every((leg) => leg.engine_runs)).toBe(true);
    expect(lasts(first)).toBe(900 * (build.cases.length + 1));
  });

  it('has a name that no other has, whichever were removed', () => {
    const named = (...names: string[]) => names.map((name) => ({ ...first, name }));
    expect(freeName(named('All cases and a stop'))).toBe('Drive 2');
    expect(freeName(named('Drive 1', 'Drive 3'))).toBe('Drive 4');
    expect(freeName(named('Drive 2', 'Home', 'Drive 4'))).toBe('Drive 5');
  });

  it('drops legs of cases that are gone, and begins again where none is left', () => {
    const fewer = { ...build, cases: build.cases.slice(0, 1) };
    const left = fitting(first, fewer).legs ?? [];
    expect(left.every((leg) => leg.case_id === fewer.cases[0]?.id)).toBe(true);
    const other = {
      ...build,
      cases: build.cases.map((entry, i) => ({ ...entry, id: `new-${i}` })),
    };
    expect(fitting(first, other).legs).toEqual(firstDrive(other).legs);
    expect(fitting(first, build)).toBe(first);
  });

  it('keeps legs with a case of their own, whatever cases the build has', () => {
    const own = templates.find((entry) => entry.name === 'Climb')?.legs(build, 0, undefined) ?? [];
    expect(own.map((leg) => leg.case?.gradient_share)).toEqual([0.04, 0.06, 0.08, 0.05]);
    const drive = { ...first, legs: own };
    expect(fitting(drive, { ...build, cases: [] })).toBe(drive);
  });

  it('lasts as long as its recording where it has one', () => {
    const recording = { id: '0', name: 'Lane', rows: 300, lasts_s: 299 };
    expect(lasts({ ...first, recording })).toBe(299);
    expect(fitting({ ...first, legs: [], recording }, build).legs).toEqual([]);
  });

  it('has a fault once, and loses it again', () => {
    const once = switched(switched(first, 'fan_dead', true), 'fan_dead', true);
    expect(once.faults?.map((entry) => entry.fault)).toEqual(['fan_dead']);
    expect(switched(once, 'fan_dead', false).faults).toEqual([]);
  });

  it('is duplicated under an id of its own', () => {
    const holding = { ...build, drives: [first] };
    const again = duplicatedDrive(holding, first);
    expect(again.id).not.toBe(first.id);
    expect(again.legs).toEqual(first.legs);
  });

  it('is not what the loop is computed from', () => {
    expect(onlyDrivesDiffer(build, { ...build, drives: [first] })).toBe(true);
    expect(onlyDrivesDiffer({ ...build, drives: [first] }, build)).toBe(true);
    expect(onlyDrivesDiffer(build, { ...build, cases: [], drives: [first] })).toBe(false);
  });

  it.each([
    [0, '00:00'],
    [61.9, '01:01'],
    [3600, '60:00'],
  ])('%d s read as %s', (seconds, text) => expect(clock(seconds)).toBe(text));
});

describe('templates of legs', () => {
  it.each(templates.map((entry) => [entry.name, entry] as const))(
    '%s can be driven',
    (_, entry) => {
      for (const leg of entry.legs(build, 0, first.legs?.at(0))) {
        expect((leg.case_id ?? null) === null).toBe(leg.case !== null);
        expect(leg.duration_s).toBeGreaterThanOrEqual(5);
      }
    },
  );

  it('stops where the leg before has ended', () => {
    const soak = templates.find((entry) => entry.name === 'Stop and soak');
    const climb = templates.find((entry) => entry.name === 'Climb')?.legs(build, 0, undefined);
    const [stopped] = soak?.legs(build, 0, climb?.at(-1)) ?? [];
    expect(stopped?.engine_runs).toBe(false);
    expect(stopped?.case?.gradient_share).toBe(0.05);
  });

  it('hides fields by the choices of the leg itself', () => {
    const leg = templates.find((entry) => entry.name === 'Flat-out run')?.legs(build, 0, undefined);
    const driven = { ...build, drives: [{ ...first, legs: leg ?? [] }] };
    const at = (field: string) => isRelevant(driven, `/drives/0/legs/0/case/${field}`);
    expect([at('brake_power_kw'), at('gradient_share'), at('engine_rpm')]).toEqual([
      true,
      false,
      true,
    ]);
  });
});

describe('faults', () => {
  const listed = faultGroups.flatMap(([, names]) => names);

  it('are all on the page, each once', () => {
    const known = Object.keys(fieldSpec('/drives/0/faults/0/fault').labels ?? {});
    expect([...listed].sort()).toEqual(known.sort());
  });

  it('have degrees or not, and begin on the way or not, as the core has it', () => {
    expect([graded('core_silted'), graded('fan_dead')]).toEqual([true, false]);
    expect([begins('core_silted'), begins('mix_weak')]).toEqual([true, false]);
  });
});

const points = {
  time_s: [0, 10, 20, 30, 40],
  metal_c: [20, 40, 60, 80, 90],
  engine_out_c: [20, 30, 50, 70, 85],
  top_hose_c: [20, 21, 22, 30, 80],
  bottom_hose_c: [20, 20, 21, 22, 40],
  thermostat_lift: [0, 0, 0, 0, 0.2],
  fan_stage: [0, 1, 1, 0, 1],
  coolant_flow_l_per_min: [1, 1, 1, 1, 9],
  pumped_l_per_min: [20, 20, 20, 20, 25],
  pressure_kpa: [0, 5, 9, 20, 40],
  boiling_margin_k: [90, 80, 70, 60, 50],
  shed_kw: [0, 0, 0, 1, 9],
  coolant_l: [8, 8, 8, 8, 7.9],
  heater_air_c: null,
} as unknown as DriveCourse['points'];

const course = {
  points,
  legs: [
    { name: 'A', case_id: 'a', from_s: 0 },
    { name: 'Own', case_id: null, from_s: 15 },
  ],
} as unknown as DriveCourse;

describe('a course', () => {
  it('is read at the point that is not after the play head', () => {
    expect([-5, 0, 9.9, 10, 39, 400].map((time) => indexAt(points.time_s, time))).toEqual([
      0, 0, 0, 1, 3, 4,
    ]);
    expect(momentAt(course, 25).engineOut).toBe(50);
    expect(momentAt(course, 25).top).toBe(22);
    expect(momentAt(course, 25).heaterAir).toBeNull();
    const heated = { ...points, heater_air_c: [1, 2, 3, 4, 5] };
    expect(momentAt({ ...course, points: heated }, 25).heaterAir).toBe(3);
    expect(momentAt(course, 25).stage).toBe(1);
    expect([0, 15, 16].map((time) => momentAt(course, time).caseId)).toEqual(['a', 'a', null]);
  });

  it('is drawn as far as the longer of it and the same without its faults', () => {
    const longer = { ...course, points: { ...points, time_s: [0, 90] } };
    expect(lastOf(course, null)).toBe(40);
    expect(lastOf(course, longer)).toBe(90);
    expect(lastOf(longer, course)).toBe(90);
  });

  it('lists what is grave before what thermostat and fan do anyway', () => {
    const kinds = ['thermostat_opens', 'fan_on', 'fan_off', 'fan_on', 'boils', 'runs_dry'];
    const events = kinds.map((kind, i) => ({ kind, time_s: i }));
    const few = fewEvents(events as unknown as DriveCourse['events'], 3);
    expect(few.map((event) => event.time_s)).toEqual([0, 4, 5]);
    expect(fewEvents(few, 12)).toEqual(few);
  });

  it('never leaves out what happens once for what happens again and again', () => {
    const kinds = ['thermostat_opens', ...Array(20).fill('cap_lifts'), 'limit_passed', 'boils'];
    kinds.push(...Array(8).fill(['back_below_limit', 'limit_passed']).flat(), 'runs_dry');
    const events = kinds.map((kind, i) => ({ kind, time_s: i }));
    const few = fewEvents(events as unknown as DriveCourse['events'], 6);
    expect(few.map((event) => event.kind)).toEqual([
      'cap_lifts',
      'limit_passed',
      'boils',
      'back_below_limit',
      'limit_passed',
      'runs_dry',
    ]);
  });

  it('tells of what repeats as it should the first alone', () => {
    const kinds = ['thermostat_opens', 'thermostat_shuts', 'cap_lifts', 'fan_on', 'fan_off'];
    const events = Array(9).fill(kinds).flat();
    const all = events.map((kind, i) => ({ kind, time_s: i }));
    const few = fewEvents(all as unknown as DriveCourse['events'], 12);
    expect(few.map((event) => event.time_s)).toEqual([0, 1, 2, 3, 4]);
  });

  it('knows when its pump draws air', () => {
    const events = [{ kind: 'runs_low', time_s: 20 }];
    const low = { ...course, events } as unknown as DriveCourse;
    expect([19, 20, 400].map((time) => runsLow(low, time))).toEqual([false, true, true]);
  });

  it('knows when the fan runs', () => {
    expect(fanStretches(points)).toEqual([
      [10, 30],
      [40, 40],
    ]);
  });

  it('says what a hand feels and a gauge shows', () => {
    expect([20, 40, 50, 90, 120].map(felt)).toEqual([
      'cold',
      'warm',
      'hot, can be held',
      'too hot to hold for more than a couple of seconds',
      'far too hot to touch',
    ]);
    expect([59, 60, 110, 111].map(gauge)).toEqual(['cold', 'normal', 'normal', 'hot']);
  });
});
