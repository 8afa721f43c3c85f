/** The browser's own database, opened once for each of what is kept there; it rejects where there is none. */

import { createStore, type UseStore } from 'idb-keyval';

/** A store of the browser's database; what fails in opening it fails in its promise, never at once. */
export function kept(name: string): UseStore {
  let store: UseStore | null = null;
  return (mode, use) =>
    Promise.resolve().then(() => {
      store ??= createStore(name, 'kept');
      return store(mode, use);
    });
}
