import { describe, expect, it } from 'vitest';
import type { Build } from '../api/types';
import { movedTexts } from './texts';

const legs = [{ duration_s: 60 }, { duration_s: 120 }, { duration_s: 180 }];
const build = {
  name: 'b',
  site: { ambient_c: 30 },
  cases: [{ id: 'one' }, { id: 'two' }],
  variants: [{ id: 'v', radiator: { width_mm: 500 } }],
  drives: [{ id: 'd', legs }],
} as unknown as Build;
const [first, second, third] = legs;

function withLegs(...next: unknown[]): Build {
  return { ...build, drives: [{ id: 'd', legs: next }] } as unknown as Build;
}

describe('text that cannot be read yet', () => {
  const texts = { '/drives/0/legs/1/duration_s': 'for ever' };

  it('moves with the leg that it was typed for', () => {
    expect(movedTexts(texts, build, withLegs(second, first, third))).toEqual({
      '/drives/0/legs/0/duration_s': 'for ever',
    });
  });

  it('goes with its leg, and does not fall to the one that takes its place', () => {
    expect(movedTexts(texts, build, withLegs(first, third))).toEqual({});
  });

  it('stays where only something beside it is changed', () => {
    expect(
      movedTexts(texts, build, withLegs(first, { ...second, engine_runs: false }, third)),
    ).toEqual(texts);
  });

  it('finds a case by its id, though the case itself has changed', () => {
    const after = { ...build, cases: [{ id: 'two', name: 'new' }, { id: 'one' }] };
    expect(movedTexts({ '/cases/1/ambient_c': 'hot' }, build, after as unknown as Build)).toEqual({
      '/cases/0/ambient_c': 'hot',
    });
  });

  it('goes where the drives have gone, and stays outside of lists', () => {
    const { drives: _, ...rest } = build;
    const kept = { '/site/ambient_c': 'hot' };
    expect(movedTexts({ ...texts, ...kept }, build, rest as Build)).toEqual(kept);
  });
});
