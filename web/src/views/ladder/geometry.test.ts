import { describe, expect, it } from 'vitest';
import { ladderRange, spread } from './geometry';

const at = (...heights: number[]) => heights.map((height) => ({ item: height, at: height }));

describe('labels of the ladder', () => {
  it('stay at their marks when there is room', () => {
    expect(spread(at(20, 60, 100), 18, 0, 200).map((p) => p.label)).toEqual([20, 60, 100]);
  });

  it('never overlap and keep their order', () => {
    const placed = spread(at(50, 52, 53, 54, 90, 95), 18, 0, 300);
    const labels = placed.map((p) => p.label);
    for (let i = 1; i < labels.length; i += 1) {
      expect((labels[i] ?? 0) - (labels[i - 1] ?? 0)).toBeGreaterThanOrEqual(18 - 1e-9);
    }
    expect(placed.map((p) => p.item)).toEqual([50, 52, 53, 54, 90, 95]);
  });

  it('stay within the ladder', () => {
    const labels = spread(at(1, 2, 3, 199, 200), 18, 0, 200).map((p) => p.label);
    expect(Math.min(...labels)).toBeGreaterThanOrEqual(9);
    expect(Math.max(...labels)).toBeLessThanOrEqual(191);
  });

  it('do not overlap where several lie beyond an end', () => {
    const labels = spread(at(900, 950, -80, -200), 18, 0, 200).map((p) => p.label);
    expect(labels).toEqual([9, 27, 173, 191]);
  });

  it('share the space around the mean of their marks', () => {
    expect(spread(at(100, 102), 18, 0, 300).map((p) => p.label)).toEqual([92, 110]);
  });
});

describe('range of the ladder', () => {
  it('is in whole tens around all marks', () => {
    expect(ladderRange([82, 94, 108, 130.4])).toEqual([50, 140]);
    expect(ladderRange([41, 190])).toEqual([30, 200]);
  });
});
