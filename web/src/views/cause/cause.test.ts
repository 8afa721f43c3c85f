import { describe, expect, it } from 'vitest';
import type { Case, CaseFinding, Diagnosis } from '../../model/api/types';
import { METRIC } from '../../model/units/quantities';
import { plainText } from '../../model/words/plainText';
import { saidOf } from './CaseLog';
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
  expect(pictures.length).toBe(29);
});

describe('the log of a case', () => {
  const values = [{ value: 'open', words: ['open'], chance: null }];
  const fuse = {
    observation: 'fuse',
    question: 'The fuse',
    says: 'The fuse is',
    value: null,
    values,
  };
  const found = {
    seen: [fuse],
    questions: [],
    next: [],
    others: [],
    causes: [{ cause: 'fan_fuse_open', title: ['Fuse of the fan blown'] }],
  } as unknown as Diagnosis;
  const say = (one: Partial<CaseFinding>) =>
    saidOf({ measured: '', note: '', ...one } as CaseFinding, found, (text) =>
      plainText(text, METRIC),
    );
  it('says each entry in words, with what was read and noted', () => {
    const seen = { kind: 'seen', observation: 'fuse', value: 'open' } as const;
    expect(say(seen)).toBe('The fuse is open');
    expect(say({ ...seen, measured: 'Across it 3 MΩ', note: 'brown holder' })).toBe(
      'The fuse is open · Across it 3 MΩ · brown holder',
    );
    expect(say({ ...seen, value: 'not_looked' })).toBe('The fuse: nobody looked');
    expect(say({ kind: 'taken_back', observation: 'fuse' })).toBe('Taken back: The fuse');
    expect(say({ kind: 'mended', cause: 'fan_fuse_open' })).toBe('Mended: Fuse of the fan blown');
    expect(say({ kind: 'drove', value: 'hot' })).toBe('Driven: it got hot again');
    expect(say({ kind: 'seen', observation: 'belt', value: 'tight' })).toBe('belt: tight');
  });
});
