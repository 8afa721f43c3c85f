import { useSyncExternalStore } from 'react';

const narrow = () =>
  typeof window.matchMedia === 'function' ? window.matchMedia('(max-width: 759.98px)') : null;

function watch(changed: () => void) {
  const width = narrow();
  width?.addEventListener('change', changed);
  return () => width?.removeEventListener('change', changed);
}

/** Whether the page has a phone's width: below the theme's "md". */
export function usePhone(): boolean {
  return useSyncExternalStore(watch, () => narrow()?.matches ?? false);
}
