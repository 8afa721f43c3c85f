/** Steps of a document that can be taken back, and forth again. */

import type { Build } from '../api/types';

const MOST = 100;
const ONE_BURST = 1200;

export interface Past {
  readonly before: readonly Build[];
  readonly after: readonly Build[];
  /** Field of the last step; a burst of keystrokes in one field is one step. */
  readonly path: string | null;
  readonly at: number;
}

export function withStep(past: Past, build: Build, path: string | null, now: number): Past {
  const burst = path !== null && path === past.path && now - past.at < ONE_BURST;
  const before = burst ? past.before : [...past.before, build].slice(-MOST);
  return { before, after: [], path, at: now };
}

export function stepBack(past: Past, build: Build): { build: Build; past: Past } | null {
  const last = past.before.at(-1);
  if (!last) return null;
  const before = past.before.slice(0, -1);
  return { build: last, past: { before, after: [...past.after, build], path: null, at: 0 } };
}

export function stepForth(past: Past, build: Build): { build: Build; past: Past } | null {
  const next = past.after.at(-1);
  if (!next) return null;
  const after = past.after.slice(0, -1);
  return { build: next, past: { before: [...past.before, build], after, path: null, at: 0 } };
}
