/** Journals as this browser has them: what is written is kept here first, and sent until the server has it. */

import { create } from 'zustand';
import { backoff } from '../api/backoff';
import { AwayError, ProblemError } from '../api/transport';
import type { Keeper } from './keepers';

export interface Entry {
  readonly id: string;
  readonly at: string;
}

/** A journal of one build, or of any car (build null). */
export interface Journal<E extends Entry> {
  readonly id: string;
  readonly build: string | null;
  readonly createdAt: string;
  readonly begun: boolean;
  /** All that was written, the first one first. */
  readonly entries: readonly E[];
  /** Ids of entries that the server has not confirmed. */
  readonly unsent: readonly string[];
  /** Entries that the server does not take, and why: they stay in this browser and keep no other back. */
  readonly left?: Readonly<Record<string, string>>;
}

/** A journal as the server has it. */
export interface Stored<E extends Entry> {
  readonly id: string;
  readonly build: string | null;
  readonly createdAt: string;
  readonly entries: readonly E[];
}

export interface Journals<E extends Entry, New> {
  readonly journals: Readonly<Record<string, Journal<E>>>;
  /** Whether what this browser keeps has been read. */
  readonly loaded: boolean;
  readonly away: boolean;
  /** Why the server refused something; null where it did not. */
  readonly refused: string | null;
  readonly keeps: boolean;
  begin: (build: string | null) => string;
  add: (id: string, entry: New) => void;
  /** What the server knows of a journal, put under what it does not know yet. */
  adopt: (stored: readonly Stored<E>[]) => void;
  /** Send what is not sent, until it is. */
  send: () => Promise<void>;
}

interface Ways<E extends Entry, New> {
  readonly keeper: Keeper<Journal<E>>;
  /** What the server calls one that it does not know. */
  readonly unknown: string;
  readonly make: (entry: New, id: string, at: string) => E;
  readonly begin: (id: string, build: string | null) => Promise<unknown>;
  /** What must be there before entries are: photos. */
  readonly before?: (build: string | null, entries: readonly E[]) => Promise<void>;
  readonly send: (id: string, entries: E[]) => Promise<Stored<E>>;
}

/** Entries that go in one request; the server takes more, but not without end. */
const AT_ONCE = 100;

type All<E extends Entry> = Record<string, Journal<E>>;

/** Which of the entries that were sent the server found wrong, and why; none where it refused them for something else. */
function wrongOnes(error: unknown, sent: readonly Entry[]): Record<string, string> {
  const found: Record<string, string> = {};
  if (!(error instanceof ProblemError) || error.problem.status !== 422) return found;
  for (const { path, message } of error.problem.errors ?? []) {
    const entry = sent[Number(/^\/[a-z]+\/(\d+)(?:\/|$)/.exec(path)?.[1])];
    if (entry) found[entry.id] = `${found[entry.id] ?? ''} ${message}`.trim();
  }
  return found;
}

/** What is kept already is joined with what this tab has: another tab may have written something, too. */
function joined<E extends Entry>(kept: All<E>, mine: Readonly<All<E>>): All<E> {
  const all: All<E> = { ...kept };
  for (const [id, one] of Object.entries(mine)) {
    const there = all[id];
    if (!there) {
      all[id] = one;
      continue;
    }
    const known = new Set(one.entries.map((entry) => entry.id));
    const others = there.entries.filter((entry) => !known.has(entry.id));
    const waiting = there.unsent.filter((sent) => !known.has(sent));
    all[id] = {
      // Begun twice it is begun once: what this tab knows of that is enough.
      ...one,
      entries: [...one.entries, ...others],
      unsent: [...one.unsent, ...waiting],
      left: { ...there.left, ...one.left },
    };
  }
  return all;
}

export function createJournals<E extends Entry, New>(ways: Ways<E, New>) {
  let sending = false;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let failed = 0;
  /** Journals whose build the server does not have. */
  const gone = new Set<string>();

  const use = create<Journals<E, New>>()((set, get) => {
    function keep(mine: All<E>) {
      set({ journals: mine });
      ways.keeper.store(mine, joined, (all, keeps) => {
        // What was written meanwhile is in neither yet.
        set({ journals: joined(all, get().journals), keeps });
      });
    }
    const put = (one: Journal<E>) => keep({ ...get().journals, [one.id]: one });
    const waits = (one: Journal<E>) =>
      one.entries.length > 0 && !gone.has(one.id) && (!one.begun || one.unsent.length > 0);

    /** One that has to be begun and sent once more. */
    function anew(one: Journal<E>) {
      const now = get().journals[one.id] ?? one;
      const all = now.entries.map((entry) => entry.id);
      put({ ...now, begun: false, unsent: all.filter((id) => !(id in (now.left ?? {}))) });
    }
    async function sendOne(one: Journal<E>) {
      if (!one.begun) await ways.begin(one.id, one.build);
      const waiting = one.entries
        .filter((entry) => one.unsent.includes(entry.id))
        .slice(0, AT_ONCE);
      await ways.before?.(one.build, waiting);
      let wrong: Record<string, string> = {};
      const body = await (waiting.length > 0
        ? ways.send(one.id, waiting)
        : Promise.resolve(null)
      ).catch((error: unknown) => {
        wrong = wrongOnes(error, waiting);
        if (Object.keys(wrong).length === 0) throw error;
        return null;
      });
      const now = get().journals[one.id] ?? one;
      const done = new Set(body ? waiting.map((entry) => entry.id) : Object.keys(wrong));
      const left = { ...now.left, ...wrong };
      put({ ...now, begun: true, unsent: now.unsent.filter((id) => !done.has(id)), left });
      if (body) get().adopt([body]);
    }
    /** Sends what waits, one journal after another; one that is refused keeps no other back. */
    async function sendAll(): Promise<{ away: boolean; refused: string | null }> {
      let refused: string | null = null;
      for (const one of Object.values(get().journals).filter(waits)) {
        try {
          await sendOne(one);
        } catch (error) {
          if (error instanceof AwayError) return { away: true, refused };
          if (!(error instanceof ProblemError)) throw error;
          if (error.problem.type === 'urn:ebbrin:unknown-build') {
            // Its build is gone: it stays in this browser.
            gone.add(one.id);
            continue;
          }
          refused = error.message;
          // A store that was set back knows nothing of it: it is begun anew, under the same ids.
          if (error.problem.type === ways.unknown) anew(one);
        }
      }
      return { away: false, refused };
    }
    function later() {
      if (timer !== null) clearTimeout(timer);
      timer = setTimeout(() => void get().send(), backoff(failed++));
    }
    return {
      journals: {},
      loaded: false,
      away: false,
      refused: null,
      keeps: true,
      begin: (build) => {
        const id = crypto.randomUUID();
        const createdAt = new Date().toISOString();
        put({ id, build, createdAt, begun: false, entries: [], unsent: [] });
        return id;
      },
      add: (id, entry) => {
        const one = get().journals[id];
        if (!one) return;
        const made = ways.make(entry, crypto.randomUUID(), new Date().toISOString());
        put({ ...one, entries: [...one.entries, made], unsent: [...one.unsent, made.id] });
        failed = 0;
        void get().send();
      },
      adopt: (stored) => {
        const all = { ...get().journals };
        for (const body of stored) {
          const mine = all[body.id];
          const there = new Set(body.entries.map((entry) => entry.id));
          const mineOnly = mine ? mine.entries.filter((entry) => !there.has(entry.id)) : [];
          all[body.id] = {
            ...body,
            begun: true,
            entries: [...body.entries, ...mineOnly],
            unsent: mine ? mine.unsent.filter((sent) => !there.has(sent)) : [],
            left: mine?.left ?? {},
          };
        }
        keep(all);
      },
      send: async () => {
        if (sending) return;
        sending = true;
        const trouble = await sendAll().finally(() => {
          sending = false;
        });
        set(trouble);
        if (trouble.away || trouble.refused) return later();
        failed = 0;
        // What was written while the rest was on its way.
        if (Object.values(get().journals).some(waits)) void get().send();
      },
    };
  });
  ways.keeper.load((all) => {
    use.setState((now) => ({ journals: joined(all, now.journals), loaded: true }));
  });
  return use;
}
