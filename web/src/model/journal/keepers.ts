/** Where journals are kept in this browser: a few words in its local storage, or more in its database. */

import { get, update } from 'idb-keyval';
import { kept as inBrowser } from './database';

interface Kept {
  readonly id: string;
  readonly createdAt: string;
  readonly begun: boolean;
  readonly unsent: readonly string[];
}

type All<J> = Record<string, J>;
type Join<J> = (kept: All<J>, mine: All<J>) => All<J>;

export interface Keeper<J> {
  /** Hands over what is kept, at once or soon. */
  load: (use: (all: All<J>) => void) => void;
  /** Joins what is kept with what this tab has; then says what that is and whether it is kept. */
  store: (mine: All<J>, join: Join<J>, done: (all: All<J>, keeps: boolean) => void) => void;
}

const MOST_KEPT = 30;

/** What is not sent is never let go; of the rest the newest stay. */
function newest<J extends Kept>(all: All<J>): All<J> {
  const sorted = Object.values(all).sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  const kept = sorted.filter((one, n) => n < MOST_KEPT || one.unsent.length > 0 || !one.begun);
  return Object.fromEntries(kept.map((one) => [one.id, one]));
}

/** In local storage: read and written at once; `write` and `read` say how it looks there. */
export function inLocalStorage<J extends Kept>(
  key: string,
  version: number,
  write: (all: All<J>) => unknown,
  read: (found: unknown) => All<J>,
): Keeper<J> {
  function there(): All<J> {
    try {
      const found = JSON.parse(localStorage.getItem(key) ?? 'null');
      return found?.version === version ? read(found) : {};
    } catch {
      return {};
    }
  }
  return {
    load: (use) => use(there()),
    store: (mine, join, done) => {
      const all = join(there(), mine);
      try {
        localStorage.setItem(
          key,
          JSON.stringify({ version, ...(write(newest(all)) as Record<string, unknown>) }),
        );
        done(all, true);
      } catch {
        done(all, false);
      }
    },
  };
}

const database = inBrowser('ebbrin');

/** In the browser's database: one transaction reads, joins and writes, so that tabs do not overwrite each other. */
export function inDatabase<J extends Kept>(key: string): Keeper<J> {
  return {
    load: (use) => {
      get<All<J>>(key, database).then(
        (found) => use(found ?? {}),
        () => use({}),
      );
    },
    store: (mine, join, done) => {
      let all = mine;
      update<All<J>>(
        key,
        (kept) => {
          all = join(kept ?? {}, mine);
          return newest(all);
        },
        database,
      ).then(
        () => done(all, true),
        () => done(mine, false),
      );
    },
  };
}
