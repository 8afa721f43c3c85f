import { describe, expect, it } from 'vitest';
import { apart, type Label, widthOf } from './labels';

const ENDS = { right: 500, top: 12, bottom: 180 };
const at = (x: number, y: number, text = `${x} ${y}`): Label => ({ text, x, y });
const meet = (a: Label, b: Label) =>
  a.x < b.x + widthOf(b) && b.x < a.x + widthOf(a) && Math.abs(a.y - b.y) < 15;

describe('labels of a chart', () => {
  it('stay where they want to be when there is room', () => {
    const wanted = [at(60, 40), at(60, 60), at(300, 40)];
    expect(apart(wanted, ENDS)).toEqual(wanted);
  });

  it('lie apart, the first where it wants, each no further off than it must', () => {
    const placed = apart([at(60, 40), at(65, 42), at(70, 44), at(62, 178), at(66, 179)], ENDS);
    expect(placed[0]?.y).toBe(40);
    expect(placed[1]?.y).toBe(55);
    for (const [n, a] of placed.entries())
      for (const b of placed.slice(n + 1)) expect(meet(a, b)).toBe(false);
    expect(Math.max(...placed.map(({ y }) => y))).toBeLessThanOrEqual(ENDS.bottom);
  });

  it('stand in the order of what they name', () => {
    const [high, low, lower] = apart([at(60, 40), at(60, 48), at(60, 50)], ENDS);
    expect([high?.y, low?.y, lower?.y]).toEqual([40, 55, 70]);
  });

  it('end before the chart does', () => {
    const [long] = apart([at(480, 40, 'thermostat open')], ENDS);
    expect((long?.x ?? 0) + widthOf(at(0, 0, 'thermostat open'))).toBeLessThanOrEqual(ENDS.right);
  });

  it('stay at the end that they want to be beyond, however far off the others are', () => {
    const placed = apart([at(60, 40), at(60, 184), at(60, 5)], ENDS);
    expect(placed.map(({ y }) => y)).toEqual([40, ENDS.bottom, ENDS.top]);
  });

  it('say once what would be said twice in one place', () => {
    const twice = [at(60, 40, 'works against'), at(64, 45, 'works against')];
    expect(apart(twice, ENDS)).toHaveLength(1);
    expect(apart([...twice, at(64, 90, 'works against')], ENDS)).toHaveLength(2);
  });
});
