import { describe, expect, it } from 'vitest';
import { hoseWidth } from '../../views/loop/Loop';
import schema from '../api/build.schema.json';
import type { Build } from '../api/types';
import { fieldSpec, isRelevant, sameValue, valueAt, withValue } from './fields';
import { caseFields, stations } from './stations';

const build = {
  name: 'b',
  cases: [{ id: 'one', kind: 'steady' }],
  variants: [
    {
      id: 'v',
      name: 'v',
      engine: { kind: 'petrol' },
      radiator: { width_mm: 500 },
      air: { fan: { kind: 'none' } },
    },
  ],
} as unknown as Build;

describe('fields of the document', () => {
  it('are all known to the published schema', () => {
    const paths = Object.values(stations).flatMap((s) => s.groups.flatMap((g) => g.fields));
    for (const path of paths) expect(fieldSpec(`/variants/0/${path}`).title).not.toBe('');
    for (const path of caseFields) expect(fieldSpec(`/cases/0/${path}`).description).not.toBe('');
    expect(fieldSpec('/site/ambient_c').quantity).toBe('temperature');
  });

  it('can all be edited somewhere', () => {
    const definitions = schema.$defs as unknown as Record<
      string,
      { properties: Record<string, { $ref?: string }> }
    >;
    const leaves = (name: string, path: string): string[] =>
      Object.entries(definitions[name]?.properties ?? {}).flatMap(([field, node]) =>
        node.$ref
          ? leaves(node.$ref.split('/').at(-1) ?? '', `${path}${field}/`)
          : [`${path}${field}`],
      );
    const edited = Object.values(stations).flatMap((s) => s.groups.flatMap((g) => g.fields));
    const variant = leaves('Variant', '').filter(
      (p) => !p.includes('from_shelf') && p !== 'id' && p !== 'name',
    );
    expect(variant.length).toBeGreaterThan(100);
    expect([...edited].sort()).toEqual(variant.sort());
    const ofCases = leaves('Case', '').filter((p) => p !== 'id' && p !== 'name');
    expect([...caseFields].sort()).toEqual(ofCases.sort());
  });

  it('carry range, need and default', () => {
    expect(fieldSpec('/variants/3/radiator/width_mm')).toMatchObject({
      low: 100,
      high: 2000,
      needed: true,
    });
    expect(fieldSpec('/variants/0/thermostat/opens_c')).toMatchObject({
      assumed: 88,
      needed: false,
    });
    expect(() => fieldSpec('/variants/0/radiator/colour')).toThrow('no field');
  });

  it('are changed without touching the rest', () => {
    const next = withValue(build, '/variants/0/radiator/width_mm', 600);
    expect(valueAt(next, '/variants/0/radiator/width_mm')).toBe(600);
    expect(valueAt(build, '/variants/0/radiator/width_mm')).toBe(500);
    expect(next.cases).toBe(build.cases);
  });

  it('are the same in any order', () => {
    expect(sameValue({ a: 1, b: [1, { c: null }] }, { b: [1, { c: null }], a: 1 })).toBe(true);
    expect(sameValue({ a: 1 }, { a: 1, b: 2 })).toBe(false);
    expect(sameValue([1, 2], [1])).toBe(false);
  });

  it('matter only where the choices beside them say so', () => {
    expect(isRelevant(build, '/variants/0/engine/stroke_mm')).toBe(false);
    expect(
      isRelevant(
        withValue(build, '/variants/0/engine/kind', 'diesel'),
        '/variants/0/engine/stroke_mm',
      ),
    ).toBe(true);
    expect(isRelevant(build, '/variants/0/air/fan/diameter_mm')).toBe(false);
    expect(isRelevant(build, '/cases/0/duration_s')).toBe(false);
    expect(isRelevant(build, '/variants/0/engine/metal_heat_kj_per_k')).toBe(false);
    const timed = withValue(build, '/cases/0/kind', 'timed');
    expect(isRelevant(timed, '/variants/0/engine/metal_heat_kj_per_k')).toBe(true);
    expect(isRelevant(build, '/variants/0/radiator/width_mm')).toBe(true);
  });
});

describe('hoses of the loop', () => {
  it('grow with the flow and leave a thread for a leak', () => {
    expect(hoseWidth(0)).toBe(1.5);
    expect(hoseWidth(40)).toBeGreaterThan(hoseWidth(8));
    expect(hoseWidth(5000)).toBe(22);
  });
});
