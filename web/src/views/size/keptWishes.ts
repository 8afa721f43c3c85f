/** Wishes that were changed and not asked yet, kept in this browser. */

import type { Wishes } from '../../model/api/types';

const key = (id: string) => `ebbrin-wishes-${id}`;

export function keptWishes(id: string): Wishes | null {
  try {
    return JSON.parse(localStorage.getItem(key(id)) ?? 'null') as Wishes | null;
  } catch {
    return null;
  }
}

/** Keep them, or forget them once they have been asked. */
export function keepWishes(id: string, wishes: Wishes | null): void {
  try {
    if (wishes) localStorage.setItem(key(id), JSON.stringify(wishes));
    else localStorage.removeItem(key(id));
  } catch {
    // Without storage each visit begins with what was asked last.
  }
}
