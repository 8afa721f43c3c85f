import { useEffect, useSyncExternalStore } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export type Mode = 'system' | 'light' | 'dark';

interface ModeChoice {
  readonly mode: Mode;
  readonly choose: (mode: Mode) => void;
}

export const useMode = create<ModeChoice>()(
  persist((change) => ({ mode: 'system', choose: (mode) => change({ mode }) }), {
    name: 'ebbrin.mode',
  }),
);

const dark = window.matchMedia?.('(prefers-color-scheme: dark)');

function subscribe(changed: () => void) {
  dark?.addEventListener('change', changed);
  return () => dark?.removeEventListener('change', changed);
}

/** Keeps the page's class in step with the choice and the system. */
export function useAppliedMode(): 'light' | 'dark' {
  const mode = useMode((choice) => choice.mode);
  const systemDark = useSyncExternalStore(subscribe, () => dark?.matches ?? false);
  const applied = mode === 'system' ? (systemDark ? 'dark' : 'light') : mode;
  useEffect(() => {
    document.documentElement.classList.toggle('dark', applied === 'dark');
    document.documentElement.classList.toggle('light', applied === 'light');
  }, [applied]);
  return applied;
}
