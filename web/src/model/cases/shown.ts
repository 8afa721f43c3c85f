/** Which case of a build, or of any car, is looked at. */

import { create } from 'zustand';
import { type KeptCase, useCases } from './kept';
import { standingOf } from './standing';

/** Which case of a build is looked at, where somebody chose; else the newest that is open, else the newest. */
export const useChosenCase = create<{
  readonly of: Readonly<Record<string, string>>;
  choose: (build: string | null, id: string) => void;
}>()((set) => ({
  of: {},
  choose: (build, id) => set((s) => ({ of: { ...s.of, [build ?? '']: id } })),
}));

export function casesOf(cases: Readonly<Record<string, KeptCase>>, build: string | null) {
  return Object.values(cases)
    .filter((one) => one.build === build)
    .sort((a, b) => b.createdAt.localeCompare(a.createdAt));
}

/** The case of a build that is looked at; null before there is one. */
export function useShownCaseOf(build: string | null): KeptCase | null {
  const cases = useCases((s) => s.journals);
  const chosen = useChosenCase((s) => s.of[build ?? '']);
  return shownOf(cases, build, chosen);
}

export function shownOf(
  cases: Readonly<Record<string, KeptCase>>,
  build: string | null,
  chosen: string | undefined,
): KeptCase | null {
  const mine = casesOf(cases, build);
  return (
    mine.find((one) => one.id === chosen) ??
    mine.find((one) => !standingOf(one.entries).closed) ??
    mine[0] ??
    null
  );
}
