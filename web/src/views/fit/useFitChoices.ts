/** How a reader wants the job done, kept in this browser: the school for each build, and whose hand ticks. */

import { create } from 'zustand';
import type { FitSchool } from '../../model/api/types';

const KEPT = 'ebbrin.fit';

interface Kept {
  readonly school: Readonly<Record<string, FitSchool>>;
  readonly hand: string;
}

function read(): Kept {
  try {
    const found = JSON.parse(localStorage.getItem(KEPT) ?? 'null');
    return { school: found?.school ?? {}, hand: String(found?.hand ?? '') };
  } catch {
    return { school: {}, hand: '' };
  }
}

interface FitChoices extends Kept {
  choose: (build: string, school: FitSchool) => void;
  call: (hand: string) => void;
}

export const useFitChoices = create<FitChoices>()((set, get) => {
  function keep(next: Partial<Kept>) {
    set(next);
    const { school, hand } = get();
    try {
      localStorage.setItem(KEPT, JSON.stringify({ school, hand }));
    } catch {
      // It holds for as long as this page is open.
    }
  }
  return {
    ...read(),
    choose: (build, school) => keep({ school: { ...get().school, [build]: school } }),
    call: (hand) => keep({ hand }),
  };
});
