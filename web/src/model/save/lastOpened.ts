/** Builds that were opened last, kept in the browser: at the car they open without the server. */

import { get, update } from 'idb-keyval';
import { takeAhead } from '../api/ahead';
import { openBuild } from '../api/client';
import { AwayError } from '../api/transport';
import type { StoredBuild } from '../api/types';
import { kept as inBrowser } from '../journal/database';

const MOST = 5;
const store = inBrowser('ebbrin-opened');

interface Opened {
  readonly at: number;
  readonly build: StoredBuild;
}

/** The build from the server; where that does not answer, as it was opened here last. */
export async function openOrKept(id: string): Promise<StoredBuild> {
  try {
    const found = await (takeAhead(id) ?? openBuild(id));
    keepOpened(found);
    return found;
  } catch (error) {
    if (!(error instanceof AwayError)) throw error;
    const kept = await get<Record<string, Opened>>('last', store).catch(() => undefined);
    const one = kept?.[id];
    if (!one) throw error;
    return one.build;
  }
}

export function keepOpened(build: StoredBuild): void {
  update<Record<string, Opened>>(
    'last',
    (kept) => {
      const all = Object.entries({ ...kept, [build.id]: { at: Date.now(), build } });
      all.sort(([, a], [, b]) => b.at - a.at);
      return Object.fromEntries(all.slice(0, MOST));
    },
    store,
  ).catch(() => {
    // A browser that keeps nothing opens it again once the server answers.
  });
}
