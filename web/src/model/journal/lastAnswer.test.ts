import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { lastAnswers } from './lastAnswer';

const kept = new Map<string, string>();
const storage = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, text: string) => kept.set(key, text),
};
beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', storage);
});
afterEach(() => vi.unstubAllGlobals());

test('each scope of each kind has its last answer', () => {
  const [plans, causes] = [lastAnswers<number>('plan'), lastAnswers<number>('diagnosis')];
  plans.remember('a', 1);
  plans.remember('a', 2);
  plans.remember('b', 3);
  expect([plans.remembered('a'), plans.remembered('b'), plans.remembered('c')]).toEqual([
    2,
    3,
    null,
  ]);
  expect(causes.remembered('a')).toBeNull();
});

test('what cannot be read, or is of another form, is as if it were not there', () => {
  const plans = lastAnswers<number>('plan');
  kept.set('ebbrin.plan.a', '{"version":1,"plan":7}');
  kept.set('ebbrin.plan.b', '{half');
  expect([plans.remembered('a'), plans.remembered('b')]).toEqual([null, null]);
});

test('a browser that keeps nothing hinders nothing', () => {
  const refuse = () => {
    throw new DOMException('full', 'QuotaExceededError');
  };
  vi.stubGlobal('localStorage', { getItem: refuse, setItem: refuse });
  const plans = lastAnswers<number>('plan');
  expect(() => plans.remember('a', 1)).not.toThrow();
  expect(plans.remembered('a')).toBeNull();
});
