/** What is not saved yet, kept in this browser: one entry for each build and tab.
 *
 * A tab holds a lock on its own name while it lives, so that another can tell a draft that somebody is
 * working on from one whose tab was closed, and take over the latter. */

import type { Build } from '../api/types';

/** A save on its way: the id that it is stored under once, what it is based on, and the document. */
export interface Pending {
  readonly key: string;
  readonly base: number;
  readonly build: Build;
}

export interface Draft {
  /** Revision that the edits are based on. */
  readonly base: number;
  readonly build: Build;
  /** Edits of the document that are not saved. */
  readonly dirty: boolean;
  /** A save whose answer has not come. */
  readonly pending?: Pending | null;
  /** Text of fields that could not be understood, by path. */
  readonly texts: Record<string, string>;
  readonly at: number;
}

const PREFIX = 'ebbrin.draft';
let tab: string | null = null;

const keyOf = (buildId: string, tabName: string) => `${PREFIX}.${buildId}.${tabName}`;
const lockOf = (tabName: string) => `ebbrin.tab.${tabName}`;

function hold(name: string): Promise<boolean> {
  if (!navigator.locks) return Promise.resolve(true);
  return new Promise((answer) => {
    navigator.locks
      .request(lockOf(name), { ifAvailable: true }, (lock) => {
        answer(lock !== null);
        // Held until the tab closes.
        return lock === null ? undefined : new Promise<void>(() => {});
      })
      .catch(() => answer(true));
  });
}

let naming: Promise<string> | null = null;

/** This tab's name: the same after a reload, a new one for a duplicated tab. */
export function tabName(): Promise<string> {
  naming ??= named();
  return naming;
}

async function named(): Promise<string> {
  const before = sessionStorage.getItem('ebbrin.tab');
  let name = before ?? crypto.randomUUID();
  // After a reload the old page may need a moment to let go of the lock.
  for (let attempt = 0; !(await hold(name)); attempt += 1) {
    if (attempt < 5) await new Promise((wake) => setTimeout(wake, 60));
    else name = crypto.randomUUID();
  }
  sessionStorage.setItem('ebbrin.tab', name);
  tab = name;
  return name;
}

const VERSION = 1;

/** A draft as it is kept, if it is one. What is none, or of a newer page, stays where it is and is not touched. */
function read(key: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null');
    return isDraft(kept) ? kept : null;
  } catch {
    return null;
  }
}

function isDraft(kept: unknown): kept is Draft {
  if (typeof kept !== 'object' || kept === null) return false;
  // Drafts of before say no version.
  const {
    version = VERSION,
    base,
    build,
    dirty,
    texts,
    at,
  } = kept as Partial<Draft> & {
    version?: unknown;
  };
  return (
    version === VERSION &&
    Number.isInteger(base) &&
    typeof at === 'number' &&
    typeof dirty === 'boolean' &&
    typeof texts === 'object' &&
    texts !== null &&
    typeof build === 'object' &&
    build !== null &&
    Array.isArray(build.variants) &&
    build.variants.length > 0 &&
    Array.isArray(build.cases)
  );
}

/** This tab's draft of a build, or the newest one of a tab that is gone. */
export async function findDraft(buildId: string): Promise<Draft | null> {
  const naming = tabName();
  // Locks are slow to ask for, and mostly there is nothing to find.
  const kept = Object.keys(localStorage).filter((key) => key.startsWith(`${PREFIX}.${buildId}.`));
  if (kept.length === 0) return null;
  const own = await naming;
  const mine = read(keyOf(buildId, own));
  if (mine) return mine;
  const held = navigator.locks
    ? ((await navigator.locks.query()).held ?? []).map((lock) => lock.name)
    : [];
  const orphans = kept
    .filter((key) => !held.includes(lockOf(key.split('.').at(-1) ?? '')))
    .map((key) => ({ key, draft: read(key) }))
    .filter((entry): entry is { key: string; draft: Draft } => entry.draft !== null)
    .sort((a, b) => b.draft.at - a.draft.at);
  const newest = orphans[0];
  if (!newest) return null;
  localStorage.setItem(keyOf(buildId, own), JSON.stringify({ version: VERSION, ...newest.draft }));
  localStorage.removeItem(newest.key);
  return newest.draft;
}

/** Keep a draft, or forget it when there is nothing left to keep. False if the browser refuses. */
export function keepDraft(buildId: string, draft: Draft | null): boolean {
  if (tab === null) return false;
  try {
    if (draft === null) localStorage.removeItem(keyOf(buildId, tab));
    else localStorage.setItem(keyOf(buildId, tab), JSON.stringify({ version: VERSION, ...draft }));
    return true;
  } catch {
    return false;
  }
}
