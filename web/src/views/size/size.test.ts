import { describe, expect, it } from 'vitest';
import type { FrontPoint, SizedRequirement } from '../../model/api/types';
import { METRIC, US } from '../../model/units/quantities';
import { nextAlong, span } from './front';
import { specification } from './specification';

const point = (solution: number | null, cost: number, margin: number): FrontPoint => ({
  solution,
  cost,
  kept_k: margin,
  chance_share: 0.9,
  electric_w: 100 - cost,
  face_m2: 0.2,
});

describe('the front', () => {
  const points = [point(1, 35, 6), point(null, 60, 7), point(0, 90, 10), point(2, 50, 6.5)];

  it('is stepped through along its axis, the numbered ones alone', () => {
    expect(nextAlong(points, 1, 'cost', 1)).toBe(2);
    expect(nextAlong(points, 2, 'cost', 1)).toBe(0);
    expect(nextAlong(points, 0, 'cost', 1)).toBe(0);
    expect(nextAlong(points, 1, 'cost', -1)).toBe(1);
    expect(nextAlong(points, 1, 'electric_w', -1)).toBe(2);
  });

  it('has axes that hold every point, from zero where that is near', () => {
    expect(span([35, 90]).from).toBe(0);
    expect(span([35, 90]).to).toBeGreaterThan(90);
    const high = span([90, 100]);
    expect(high.from).toBeGreaterThan(80);
    expect(high.from).toBeLessThan(90);
    const single = span([0]);
    expect(single.to).toBeGreaterThan(single.from);
  });
});

describe('the specification', () => {
  const required = {
    ask: [['A core of ', { quantity: 'length', value: 508, bare: false }, '.']],
    measure: [['Its fins.']],
    refuse: [['Less.']],
  } as unknown as SizedRequirement;

  it('is text in the reader’s units, with the caution', () => {
    expect(specification('Mule', required, METRIC)).toContain('- A core of 508 mm.');
    const us = specification('Mule', required, US);
    expect(us).toContain('- A core of 20.0 in.');
    expect(us).toContain('Refuse:\n- Less.');
    expect(us).toContain('licensed technician');
    expect(us).not.toContain('Mind:');
    const worn = { ...required, cautions: [['It wears.']] } as SizedRequirement;
    expect(specification('Mule', worn, US)).toContain('Mind:\n- It wears.');
  });
});
