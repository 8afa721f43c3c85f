import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { createStore } from 'zustand';
import { ANSWERED_SOON, withFirstAnswer } from './firstAnswer';
import type { Session } from './session';

const UNTOLD = { evaluation: null, needed: false, problem: null, serverAway: false };
const opened = (told: object = {}) =>
  createStore(() => ({ ...UNTOLD, ...told })) as unknown as Session;

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

test.each([
  [{ evaluation: {} }],
  [{ needed: true }],
  [{ problem: 'A core cannot be this thin.' }],
  [{ serverAway: true }],
])('a build is shown as soon as its answer, or why there is none, is known: %o', async (told) => {
  expect(vi.getTimerCount()).toBe(0);
  const there = opened(told);
  expect(await withFirstAnswer(there)).toBe(there);
  const comes = opened();
  const shown = vi.fn();
  void withFirstAnswer(comes).then(shown);
  await vi.advanceTimersByTimeAsync(ANSWERED_SOON / 2);
  expect(shown).not.toHaveBeenCalled();
  comes.setState(told as object);
  await vi.advanceTimersByTimeAsync(0);
  expect(shown).toHaveBeenCalledExactlyOnceWith(comes);
  expect(vi.getTimerCount()).toBe(0);
});

test('an answer that takes its time keeps nobody from the build', async () => {
  const slow = opened();
  const shown = vi.fn();
  void withFirstAnswer(slow).then(shown);
  await vi.advanceTimersByTimeAsync(ANSWERED_SOON);
  expect(shown).toHaveBeenCalledExactlyOnceWith(slow);
});
