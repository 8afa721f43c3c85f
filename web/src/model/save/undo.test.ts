import { describe, expect, it } from 'vitest';
import type { Build } from '../api/types';
import { applied, NO_PAST, placeOfOne, stepBack, stepForth, withStep } from './undo';

const build = (ambient: number, depth: number, ...more: string[]) =>
  ({
    site: { ambient_c: ambient },
    variants: ['a', ...more].map((id) => ({ id, radiator: { depth_mm: depth } })),
  }) as unknown as Build;

describe('a step', () => {
  it('leaves what somebody else changed meanwhile', () => {
    const past = withStep(NO_PAST, build(30, 40), build(30, 60), '/x', 0);
    const back = stepBack(past, build(35, 60));
    expect(back?.build).toEqual(build(35, 40));
    expect(stepForth(back?.past ?? NO_PAST, build(36, 40))?.build).toEqual(build(36, 60));
  });

  it('takes back an added entry and keeps one that came from elsewhere', () => {
    const past = withStep(NO_PAST, build(30, 40), build(30, 40, 'b'), null, 0);
    const now = build(30, 40, 'b', 'theirs');
    const back = stepBack(past, now);
    expect(back?.build).toEqual(build(30, 40, 'theirs'));
    const forth = stepForth(back?.past ?? NO_PAST, back?.build as Build);
    expect(forth?.build.variants.map((v) => v.id)).toEqual(['a', 'b', 'theirs']);
  });

  it('brings back a removed entry beside one that came from elsewhere', () => {
    const past = withStep(NO_PAST, build(30, 40, 'b'), build(30, 40), null, 0);
    const back = stepBack(past, build(30, 40, 'theirs'));
    expect(back?.build.variants.map((v) => v.id)).toEqual(['a', 'b', 'theirs']);
  });

  it('sets its own field even where somebody else has set it too', () => {
    const past = withStep(NO_PAST, build(30, 40), build(30, 60), '/x', 0);
    expect(stepBack(past, build(30, 70))?.build).toEqual(build(30, 40));
  });

  it('of a burst of keystrokes is one, but not across what somebody else saved', () => {
    const site = (altitude_m: number, ambient_c = 30) =>
      ({ site: { ambient_c, altitude_m }, variants: [] }) as unknown as Build;
    const [one, two, three] = [site(40), site(5), site(58)];
    const burst = withStep(withStep(NO_PAST, one, two, '/x', 0), two, three, '/x', 100);
    expect(burst.before).toEqual([{ from: one, to: three }]);
    const cut = withStep(
      withStep(NO_PAST, one, two, '/x', 0),
      site(5, 33),
      site(58, 33),
      '/x',
      100,
    );
    expect(cut.before).toHaveLength(2);
  });

  it('in one leg of a drive is not one with what follows soon in another', () => {
    const drive = (...legs: number[]) =>
      ({ drives: [{ id: 'd', legs: legs.map((duration_s) => ({ duration_s })) }] }) as never;
    const [one, two, three] = [drive(10, 20), drive(15, 20), drive(15, 25)];
    const past = withStep(withStep(NO_PAST, one, two, '/drives', 0), two, three, '/drives', 100);
    expect(past.before).toHaveLength(2);
    const more = withStep(past, three, drive(15, 255), '/drives', 200);
    expect(more.before).toHaveLength(2);
    const added = withStep(more, drive(15, 255), drive(15, 255, 30), '/drives', 300);
    expect(added.before).toHaveLength(3);
  });

  it('knows the one value that it changed, in a part that was not there too', () => {
    expect(placeOfOne({ a: [{ b: 1 }] }, { a: [{ b: 2 }] })).toBe('/a/0/b');
    expect(placeOfOne({}, { part: { width: 5 } })).toBe('/part/width');
    expect(placeOfOne({ part: { width: 5 } }, {})).toBe('/part/width');
    expect(placeOfOne({ a: 1, b: 1 }, { a: 2, b: 2 })).toBeNull();
    expect(placeOfOne({ a: [1] }, { a: [1, 2] })).toBeNull();
    expect(placeOfOne({ a: 1 }, { a: [1] })).toBeNull();
  });

  it('that takes a field away leaves the others', () => {
    expect(applied({ a: 1, b: 2 }, { b: 2 }, { a: 1, b: 3, c: 4 })).toEqual({ b: 3, c: 4 });
    expect(applied([1, 2], [1], [1, 2, 3])).toEqual([1]);
  });
});
