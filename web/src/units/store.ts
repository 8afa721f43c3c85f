import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { UnitSet } from './quantities';

interface UnitChoice {
  readonly set: UnitSet;
  readonly choose: (set: UnitSet) => void;
}

/** The reader's units, kept in this browser. */
export const useUnits = create<UnitChoice>()(
  persist((change) => ({ set: 'metric', choose: (set) => change({ set }) }), {
    name: 'ebbrin.units',
  }),
);
