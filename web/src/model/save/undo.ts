/** Steps of a document that can be taken back, and forth again.
 *
 * A step is applied to the document as it is now: what somebody else changed meanwhile stays. */

import type { Build } from '../api/types';
import { sameValue } from '../document/fields';

const MOST = 100;
const ONE_BURST = 1200;

interface Step {
  readonly from: Build;
  readonly to: Build;
}

export interface Past {
  readonly before: readonly Step[];
  readonly after: readonly Step[];
  /** Where the last step changed one value; a burst of keystrokes there is one step. */
  readonly path: string | null;
  readonly at: number;
}

export const NO_PAST: Past = { before: [], after: [], path: null, at: 0 };

export function withStep(
  past: Past,
  from: Build,
  to: Build,
  path: string | null,
  now: number,
): Past {
  const last = past.before.at(-1);
  const place = path === null ? null : placeOfOne(from, to);
  // What another tab saved in between ends a burst: the step must not hold it.
  const burst =
    last && place !== null && place === past.path && now - past.at < ONE_BURST && last.to === from;
  const before = burst
    ? [...past.before.slice(0, -1), { from: last.from, to }]
    : [...past.before, { from, to }].slice(-MOST);
  return { before, after: [], path: place, at: now };
}

export function stepBack(past: Past, build: Build): { build: Build; past: Past } | null {
  const last = past.before.at(-1);
  if (!last) return null;
  return {
    build: applied(last.to, last.from, build) as Build,
    past: { before: past.before.slice(0, -1), after: [...past.after, last], path: null, at: 0 },
  };
}

export function stepForth(past: Past, build: Build): { build: Build; past: Past } | null {
  const next = past.after.at(-1);
  if (!next) return null;
  return {
    build: applied(next.from, next.to, build) as Build,
    past: { before: [...past.before, next], after: past.after.slice(0, -1), path: null, at: 0 },
  };
}

type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Path of the one value that differs; null where more than one does, or an entry comes or goes. A part that is not
 *  there yet has none of its fields. */
export function placeOfOne(from: unknown, to: unknown, path = ''): string | null {
  const [was, is] = [partOf(from, to), partOf(to, from)];
  if (!was || !is) {
    const leaf = (value: unknown) => typeof value !== 'object' || value === null;
    return leaf(from) && leaf(to) ? path : null;
  }
  if (Array.isArray(was) !== Array.isArray(is)) return null;
  if (Array.isArray(was) && Array.isArray(is) && was.length !== is.length) return null;
  const keys = [...new Set([...Object.keys(was), ...Object.keys(is)])];
  const differ = keys.filter((key) => !sameValue(was[key], is[key]));
  const [only] = differ;
  if (differ.length !== 1 || only === undefined) return null;
  return placeOfOne(was[only], is[only], `${path}/${only}`);
}

function partOf(value: unknown, beside: unknown): Fields | null {
  if (value === undefined && isFields(beside)) return {};
  return typeof value === 'object' && value !== null ? (value as Fields) : null;
}

/** Entries that have names of their own, such as variants and cases. */
function named(value: unknown): value is (Fields & { id: string })[] {
  return (
    Array.isArray(value) && value.every((entry) => isFields(entry) && typeof entry.id === 'string')
  );
}

/** `now` with all that differs between `from` and `to` as it is in `to`; everything else stays. */
export function applied(from: unknown, to: unknown, now: unknown): unknown {
  if (sameValue(from, to)) return now;
  if (sameValue(from, now)) return to;
  if (named(from) && named(to) && named(now)) return appliedEntries(from, to, now);
  if (isFields(from) && isFields(to) && isFields(now)) {
    const out: Fields = { ...now };
    for (const key of new Set([...Object.keys(from), ...Object.keys(to)])) {
      if (!(key in to)) delete out[key];
      else out[key] = applied(from[key], to[key], now[key]);
    }
    return out;
  }
  return to;
}

function appliedEntries(
  from: (Fields & { id: string })[],
  to: (Fields & { id: string })[],
  now: (Fields & { id: string })[],
) {
  const find = (list: (Fields & { id: string })[], id: string) => list.find((e) => e.id === id);
  const left = now
    .filter((entry) => !find(from, entry.id) || find(to, entry.id))
    .map((entry) => {
      const [was, is] = [find(from, entry.id), find(to, entry.id)];
      return is ? (applied(was, is, entry) as Fields & { id: string }) : entry;
    });
  const added = to.filter((entry) => !find(from, entry.id) && !find(now, entry.id));
  for (const entry of added) left.splice(Math.min(to.indexOf(entry), left.length), 0, entry);
  // Where both hold the same entries, their order is that of the step.
  const order = new Map(to.map((entry, index) => [entry.id, index]));
  const moved = left.every((entry) => order.has(entry.id));
  return moved ? left.sort((a, b) => (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0)) : left;
}
