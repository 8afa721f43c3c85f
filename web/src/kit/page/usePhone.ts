import { useSyncExternalStore } from 'react';

const narrow =
  typeof window.matchMedia === 'function' ? window.matchMedia('(max-width: 759.98px)') : null;

/** Whether the page has a phone's width: below the theme's "md". */
export function usePhone(): boolean {
  return useSyncExternalStore(
    (changed) => {
      narrow?.addEventListener('change', changed);
      return () => narrow?.removeEventListener('change', changed);
    },
    () => narrow?.matches ?? false,
  );
}
