import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import { casesQuery } from '../../model/api/queries';
import { type KeptCase, type NewFinding, storedCase, useCases } from '../../model/cases/kept';
import { standingOf } from '../../model/cases/standing';

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

function shownOf(
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

/** The shown case, kept level with the server, and what is done to it. A case begins with its first finding. */
export function useCase(build: string | null) {
  const listed = useQuery(casesQuery(build));
  const adopt = useCases((s) => s.adopt);
  const send = useCases((s) => s.send);
  const shown = useShownCaseOf(build);
  const choose = useChosenCase((s) => s.choose);
  useEffect(() => {
    if (listed.data) adopt(listed.data.map(storedCase));
  }, [listed.data, adopt]);
  useEffect(() => {
    // What was found before the page was loaded anew may not have been sent.
    void send();
  }, [send]);
  const acts = useMemo(() => {
    function begin() {
      const id = useCases.getState().begin(build);
      choose(build, id);
      return id;
    }
    function add(found: NewFinding) {
      // As it is now: two findings in one breath belong to the same case.
      const { journals: cases, add: put } = useCases.getState();
      const now = shownOf(cases, build, useChosenCase.getState().of[build ?? '']);
      put(now?.id ?? begin(), found);
    }
    return { add, begin, choose: (id: string) => choose(build, id) };
  }, [build, choose]);
  return { shown, ...acts };
}
