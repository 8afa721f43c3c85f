import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { casesQuery } from '../../model/api/queries';
import { type NewFinding, storedCase, useCases } from '../../model/cases/kept';
import { shownOf, useChosenCase, useShownCaseOf } from '../../model/cases/shown';

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
