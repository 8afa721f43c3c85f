import { describe, expect, it } from 'vitest';
import type { Case } from '../../model/api/types';
import { tenths } from './Causes';
import { whenOf } from './Offered';
import { pictures } from './Picture';

describe('a chance in words', () => {
  it('never says more than it is', () => {
    expect(tenths(0.44)).toBe('four of ten');
    expect(tenths(0.0999)).toBe('less than one of ten');
    expect(tenths(0.3)).toBe('three of ten');
    expect(tenths(0.0)).toBe('hardly');
    expect(tenths(0.949)).toBe('nine of ten');
    expect(tenths(0.95)).toBe('as good as certain');
  });
});

describe('when a case would be hot', () => {
  const at = (more: Partial<Case>) => whenOf({ speed_km_h: 0, gradient_share: 0, ...more } as Case);
  it('is said as a driver says it', () => {
    expect(at({})).toBe('standing');
    expect(at({ speed_km_h: 8 })).toBe('crawling');
    expect(at({ speed_km_h: 50, gradient_share: 0.08 })).toBe('climbing');
    expect(at({ speed_km_h: 120 })).toBe('at_speed');
    expect(at({ speed_km_h: 50 })).toBeNull();
    expect(at({ speed_km_h: 50, gradient_share: 0.08, load: 'power' })).toBeNull();
  });
});

it('draws what the test cards ask for', () => {
  // That every card's picture is among them is tested where the cards are written.
  expect(pictures.length).toBe(28);
});
