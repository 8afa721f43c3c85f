import { describe, expect, it } from 'vitest';
import type { Build, ShelfPart } from '../../model/api/types';
import { METRIC, US } from '../../model/units/quantities';
import { summary } from './Shelf';
import { asShelfPart, idOf, shelfKindAt, unchanged, withPart } from './slots';

const fan: ShelfPart = {
  part: 'fan',
  id: 'slim-305',
  version: 2,
  name: 'Slim 305',
  note: '',
  price: 80,
  mass_kg: 1,
  values: {
    kind: 'electric',
    diameter_mm: 305,
    curve: [
      { flow_m3_per_s: 0, pressure_pa: 150 },
      { flow_m3_per_s: 0.5, pressure_pa: 0 },
    ],
  },
};
const FIELDS = ['kind', 'fans', 'diameter_mm', 'curve', 'curve_rpm'];
const build = {
  variants: [
    { id: 'a', air: { shroud: 'full', fan: { kind: 'mechanical', fans: 'two', curve_rpm: 2000 } } },
    { id: 'b', air: { fan: { kind: 'none' } } },
  ],
} as unknown as Build;

describe('a part from the shelf', () => {
  const next = withPart(build, 0, fan, FIELDS);
  const [a, b] = next.variants as unknown as [Build['variants'][number], Build['variants'][number]];

  it('brings its values, remembers where it came from, and leaves nothing of the old one', () => {
    expect(a.air?.fan).toMatchObject({
      ...fan.values,
      fans: 'one',
      curve_rpm: null,
      from_shelf: { id: 'slim-305', version: 2 },
    });
    expect(a.air?.shroud).toBe('full');
  });

  it('touches no other variant', () => {
    expect(b).toBe(build.variants[1]);
  });

  it('is as on the shelf until a value changes', () => {
    expect(unchanged(a, fan)).toBe(true);
    const changed = { ...fan, values: { ...fan.values, diameter_mm: 300 } };
    expect(unchanged(a, changed)).toBe(false);
  });

  it('goes back to the shelf with what is known of it', () => {
    const part = asShelfPart(a, 'fan', FIELDS, 'Good fan');
    expect(part).toMatchObject({ part: 'fan', id: 'good-fan', name: 'Good fan' });
    expect(part.values).toEqual({ ...fan.values, fans: 'one' });
  });

  it('is said in a line in the reader’s units', () => {
    expect(summary(fan, METRIC)).toBe('0.50 m³/s in free air; electric; blade diameter 305 mm');
    expect(summary(fan, US)).toContain('1059 cfm in free air');
  });
});

describe('ids', () => {
  it('are made of plain letters, whatever the name', () => {
    expect(idOf('  Größerer Kühler, 2. Hand ')).toBe('gro-erer-kuhler-2-hand');
    expect(idOf('???')).toBe('part');
    expect(idOf('x'.repeat(99))).toHaveLength(64);
  });
});

describe('stations', () => {
  it('know which parts they take', () => {
    expect(shelfKindAt('air')).toBe('fan');
    expect(shelfKindAt('flow')).toBe('pump');
    expect(shelfKindAt('engine')).toBeNull();
  });
});
