import { describe, expect, it } from 'vitest';
import { answersAsText } from '../../app/CopyAnswers';
import { ranked, worth } from '../../views/loop/Levers';
import type { Build, Evaluation, Lever } from '../api/types';
import { US } from '../units/quantities';
import { fileName } from './buildFile';
import { differences, duplicated, removed, withVariant } from './edit';
import { caseKinds } from './kinds';
import { newCase } from './newBuild';

const build = {
  name: 'b',
  site: { ambient_c: 30, altitude_m: 0 },
  cases: [{ id: 'one', name: 'one' }],
  variants: [
    {
      id: 'v',
      name: 'v',
      engine: { rated_power_kw: 90, rated_rpm: 5200 },
      cap: { pressure_kpa: 90 },
    },
  ],
} as unknown as Build;

describe('variants', () => {
  it('are copied under an id of their own, and the last one stays', () => {
    const two = duplicated(build, 'v');
    expect(two.variants.map((entry) => entry.id)).toEqual(['v', 'v-2']);
    const three = duplicated(two, 'v');
    expect(three.variants.map((entry) => entry.id)).toEqual(['v', 'v-2', 'v-3']);
    expect(three.variants.map((entry) => entry.name)).toEqual(['v', 'v again', 'v again 2']);
    expect(removed(two, 'v').variants.map((entry) => entry.id)).toEqual(['v-2']);
    expect(removed(build, 'v')).toBe(build);
  });

  it('come from elsewhere under an id and a name that no other has', () => {
    const [first] = build.variants as [Build['variants'][number]];
    const sized = { ...first, id: 'sized-1', name: 'Sized, cheapest' };
    const twice = withVariant(withVariant(build, sized), sized);
    expect(twice.variants.map(({ id, name }) => [id, name])).toEqual([
      ['v', 'v'],
      ['sized-1', 'Sized, cheapest'],
      ['sized-2', 'Sized, cheapest 2'],
    ]);
    expect(build.variants.length).toBe(1);
  });

  it('are not longer in id or name than a build allows', () => {
    const [first] = build.variants as [Build['variants'][number]];
    const long = { ...first, id: 'y'.repeat(64), name: 'y'.repeat(200) };
    const made = withVariant(withVariant(build, long), long).variants.slice(1);
    expect(made.map(({ id }) => id.length <= 64)).toEqual([true, true]);
    expect(made.map(({ name }) => name.length <= 120)).toEqual([true, true]);
    expect(new Set(made.map(({ name }) => name)).size).toBe(2);
  });

  it('differ where their parts do, whatever they are called', () => {
    const two = duplicated(build, 'v');
    const [a, b] = two.variants as [Build['variants'][number], Build['variants'][number]];
    expect(differences([a, b])).toEqual([]);
    const other = { ...b, cap: { ...b.cap, pressure_kpa: 110 } } as typeof b;
    expect(differences([a, other])).toEqual(['cap/pressure_kpa']);
  });
});

describe('levers', () => {
  const lever = (name: string, gain: number | null) =>
    ({
      name,
      text: [name],
      cases: [
        { case_id: 'one', cooler_k: null, margin_gain_k: null, ambient_gain_k: gain, cures: false },
      ],
    }) as Lever;

  it('come best first, harm last but for what cannot be told', () => {
    const order = ranked([lever('a', -3), lever('b', null), lever('c', 8), lever('d', 0)], 'one');
    expect(order.map((entry) => entry.name)).toEqual(['c', 'd', 'a', 'b']);
    expect(worth(lever('a', -3), 'elsewhere')).toBeNull();
  });
});

describe('kinds of case', () => {
  it('fill sensible values and leave the rest open', () => {
    const flatOut = caseKinds.find((kind) => kind.name === 'Flat-out run');
    const made = newCase(build.cases, 'Flat-out run', flatOut?.values(build, 0));
    expect(made).toMatchObject({
      kind: 'timed',
      brake_power_kw: 90,
      engine_rpm: 5200,
      id: 'case-2',
    });
    for (const kind of caseKinds)
      expect(newCase([], kind.name, kind.values(build, 0)).gradient_share).toBeDefined();
  });
});

describe('what leaves the page', () => {
  it('is a file named after the build', () => {
    expect(fileName('Linnet / 2.5 turbo')).toBe('Linnet-2-5-turbo.ebbrin.json');
    expect(fileName('  ')).toBe('build.ebbrin.json');
  });

  it('is text with the reader’s units', () => {
    const answer = {
      verdict: 'holds',
      headline: [{ quantity: 'pressure', value: 110 }],
      sentence: ['fine'],
    };
    const evaluation = {
      verdict: 'holds',
      answers: { radiator: answer, airflow: answer, thermostat: answer, cap: answer },
      cases: [
        { name: 'one', verdict: 'holds', sentence: ['Fan on ', { quantity: 'share', value: 0.5 }] },
      ],
      findings: [
        { kind: 'warning', text: ['Too wide by ', { quantity: 'length', value: 25.4 }] },
        { kind: 'note', text: ['cool'] },
      ],
    } as unknown as Evaluation;
    const text = answersAsText('b', 'v', evaluation, US);
    expect(text).toContain('Cap: 16.0 psi – fine');
    expect(text).toContain('one (holds): Fan on 50 %');
    expect(text).toContain('Mind: Too wide by 1.0 in');
    expect(text).not.toContain('cool');
    // What is copied is told from what stands in the fields by now.
    expect(text).not.toContain('last valid result');
    expect(answersAsText('b', 'v', evaluation, US, false)).toContain('last valid result');
  });
});
