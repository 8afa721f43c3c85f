import { useMemo } from 'react';
import type { CaseKind } from '../../model/document/kinds';
import { newCase } from '../../model/document/newBuild';
import { usePlaces } from '../../model/places';
import { useOpened } from '../../model/save/context';

/** Adding, opening and removing duty cases: the same functions at each drawing. */
export function useCaseEdits() {
  const places = usePlaces();
  const session = useOpened();
  return useMemo(
    () => ({
      open: (id: string) => places.to(`cases/${id}`, id),
      rows: () => places.to('cases'),
      add: (kind: CaseKind) => {
        const { build, variant, setValue } = session.getState();
        const taken = build.cases.some((entry) => entry.name === kind.name);
        const fresh = newCase(build.cases, taken ? '' : kind.name, kind.values(build, variant));
        setValue('/cases', [...build.cases, fresh]);
        places.to(`cases/${fresh.id}`);
      },
      remove: (id: string) => {
        const { build, setValue } = session.getState();
        setValue(
          '/cases',
          build.cases.filter((entry) => entry.id !== id),
        );
        places.to('');
      },
    }),
    [places, session],
  );
}
