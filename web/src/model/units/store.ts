import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { METRIC, type UnitSet, type Units, unitSets } from './quantities';

interface UnitChoice {
  readonly units: Units;
  readonly choose: (set: UnitSet) => void;
  /** Show one quantity in a unit of its own; null goes back to the set's. */
  readonly chooseFor: (quantity: string, symbol: string | null) => void;
  /** The workshop's own, as the server keeps it. */
  readonly setCurrency: (currency: string) => void;
}

function valid(units: Partial<Units> | undefined): Units {
  const set = unitSets.find((known) => known === units?.set) ?? METRIC.set;
  return { set, own: typeof units?.own === 'object' ? { ...units.own } : {} };
}

/** The reader's units, kept in this browser. */
export const useUnits = create<UnitChoice>()(
  persist(
    (change, get) => ({
      units: METRIC,
      choose: (set) => change({ units: { ...get().units, set, own: {} } }),
      chooseFor: (quantity, symbol) => {
        const { [quantity]: _, ...own } = get().units.own;
        change({
          units: { ...get().units, own: symbol ? { ...own, [quantity]: symbol } : own },
        });
      },
      setCurrency: (currency) => change({ units: { ...get().units, currency } }),
    }),
    {
      name: 'ebbrin.units',
      version: 1,
      partialize: ({ units: { set, own } }) => ({ units: { set, own } }),
      // Version 0 held the set alone.
      migrate: (kept) => {
        const old = kept as { set?: UnitSet; units?: Units } | null;
        return { units: valid(old?.units ?? { set: old?.set }) };
      },
      merge: (kept, now) => ({ ...now, units: valid((kept as { units?: Units } | null)?.units) }),
    },
  ),
);
