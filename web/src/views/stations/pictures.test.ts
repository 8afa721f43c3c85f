import { describe, expect, it } from 'vitest';
import { tippingPoints } from '../../app/WhatIf';
import type { Evaluation, Variant, Zone } from '../../model/api/types';
import { sideLabel } from '../compare/useSideMarks';
import { fitOf, fits } from './CoreDrawing';
import { wanted } from './Effect';
import { drawnZones, zoneName } from './FanLines';

describe('a core in the room of its car', () => {
  const variant = (vehicle: object) =>
    ({ radiator: { width_mm: 600, height_mm: 400, depth_mm: 40 }, vehicle }) as unknown as Variant;

  it('fits where nothing was measured', () => {
    const fit = fitOf(variant({}));
    expect(fit?.tooLarge).toEqual([]);
    expect(fit?.room).toEqual({ width: 600, height: 400, depth: 40 });
  });

  it('is too large in each direction that says so', () => {
    const fit = fitOf(variant({ space_width_mm: 590, space_height_mm: 500, space_depth_mm: 39 }));
    expect(fit?.tooLarge).toEqual(['width', 'depth']);
  });

  it.each([
    [{}, 'the room in the car is not measured yet'],
    [
      { space_width_mm: 700 },
      'room for 700 mm in width, so far it fits; the room in height and depth is not measured yet',
    ],
    [{ space_width_mm: 590 }, 'too large for the car in width'],
    [
      { space_width_mm: 700, space_height_mm: 500, space_depth_mm: 40 },
      'fits; room for 700 mm × 500 mm × 40 mm',
    ],
  ])('is said to fit as far as it was measured: %j', (room, words) => {
    const fit = fitOf(variant(room));
    expect(fit && fits(fit, (mm) => `${mm} mm`)).toBe(words);
  });

  it('is not drawn before it has a size', () => {
    expect(fitOf({ radiator: {}, vehicle: {} } as unknown as Variant)).toBeNull();
  });
});

describe('what alone would do', () => {
  it.each([
    [
      { air: 1.914, core: null, coolant: null, to_limit: true },
      'To come down to its limit it would take alone: 1.91 times the air. Six times the core or the coolant flow alone would not do.',
    ],
    [
      { air: 1.22, core: 2.46, coolant: 0.1, to_limit: false },
      'For nine days in ten it would take alone: 1.22 times the air, 2.5 times the core, a fifth or less of the coolant flow.',
    ],
    [
      { air: null, core: null, coolant: null, to_limit: true },
      'Six times the air, the core or the coolant flow alone would not do.',
    ],
  ])('is said for %j', (found, words) => {
    expect(wanted(found)).toBe(words);
  });
});

describe('zones of the face', () => {
  const zone = (name: Zone['name'], flow: number) =>
    ({ name, flow_m3_per_s: flow, fan: [], resistance: [] }) as unknown as Zone;

  it('show one of two fans that do the same', () => {
    const { zones, alike } = drawnZones([zone('first_fan', 0.3), zone('second_fan', 0.3)]);
    expect(zones.map((z) => z.name)).toEqual(['first_fan']);
    expect(alike).toBe(true);
  });

  it('show both where they differ', () => {
    const all = [zone('first_fan', 0.3), zone('second_fan', 0.1), zone('open_face', 0)];
    expect(drawnZones(all)).toEqual({ zones: all, alike: false });
  });

  it('give the parts of one fan names of their own', () => {
    const all = [zone('fan', 0.3), zone('fan', 0.2), zone('open_face', 0.1)];
    const names = all.map((_, at) => zoneName(all, at));
    expect(names).toEqual(['the fan, part 1 of 2', 'the fan, part 2 of 2', 'open face']);
  });
});

describe('where the verdict tips', () => {
  const evaluation = (ends: (number | null)[]) =>
    ({
      cases: ends.map((end, i) => ({
        id: `c${i}`,
        limiting_ambient_c: end,
        holding_ambient_c: end === null ? null : end - 6 - i,
      })),
    }) as unknown as Evaluation;

  it('is the hottest air that the weakest case stands', () => {
    expect(tippingPoints(evaluation([40, 36, 50]), () => true)).toEqual({ holds: 29, limit: 36 });
  });

  it('leaves out cases with an ambient of their own', () => {
    expect(tippingPoints(evaluation([40, 36]), (id) => id !== 'c1')?.limit).toBe(40);
  });

  it('is even odds alone where a case has the chance asked for in no air', () => {
    const [cold] = evaluation([-40]).cases;
    const cases = [{ ...cold, holding_ambient_c: null }];
    const seen = { cases } as unknown as Evaluation;
    expect(tippingPoints(seen, () => true)).toEqual({ holds: null, limit: -40 });
  });

  it('cannot be said where a case has no such air, or none follows', () => {
    expect(tippingPoints(evaluation([40, null]), () => true)).toBeNull();
    expect(tippingPoints(evaluation([40]), () => false)).toBeNull();
  });
});

describe('variants on the ladder', () => {
  it('have short names that differ', () => {
    expect(sideLabel(1, 'Bigger core')).toBe('2 Bigger');
    expect(sideLabel(2, 'Bigger core and fans')).toBe('3 Bigger');
    expect(sideLabel(0, 'Extraordinary')).toBe('1 Extraor');
  });
});
