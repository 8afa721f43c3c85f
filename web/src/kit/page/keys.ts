import { create } from 'zustand';

const KEPT = 'ebbrin-single-keys';

function kept(): boolean {
  try {
    return localStorage.getItem(KEPT) !== 'off';
  } catch {
    return true;
  }
}

/** Whether a single letter is a command; who dictates or presses keys by accident switches them off (WCAG 2.1.4). */
export const useKeys = create<{ readonly single: boolean; readonly turn: () => void }>()(
  (set, get) => ({
    single: kept(),
    turn: () => {
      const single = !get().single;
      set({ single });
      try {
        localStorage.setItem(KEPT, single ? 'on' : 'off');
      } catch {
        // It holds until the page is left.
      }
    },
  }),
);
