import { useMemo } from 'react';
import { columnsOf } from '../../model/document/edit';
import { useSession } from '../../model/save/context';
import { boundOf, hottest } from '../../model/words/hottest';
import type { VariantMark } from '../ladder/Ladder';

/** Where each variant that stands side by side brings a case, for the ladder. */
export function useSideMarks(caseId: string | null): VariantMark[] {
  const build = useSession((s) => s.build);
  const index = useSession((s) => s.variant);
  const evaluation = useSession((s) => s.evaluation);
  const others = useSession((s) => s.further?.others);
  return useMemo(() => {
    const shown = build.variants[index];
    if (!shown) return [];
    return columnsOf(build, shown.id).flatMap((variant, i) => {
      const answer = variant.id === shown.id ? evaluation : others?.[variant.id];
      const found = answer?.cases.find((entry) => entry.id === caseId);
      const value = found ? hottest(found) : null;
      if (value === null) return [];
      return [
        {
          label: sideLabel(i, variant.name),
          value,
          strong: variant.id === shown.id,
          bound: found && boundOf(found),
        },
      ];
    });
  }, [build, index, evaluation, others, caseId]);
}

/** The number that a variant has side by side and the first word of its name: short, and never the same twice. */
export function sideLabel(index: number, name: string): string {
  return `${index + 1} ${name.split(/\s+/)[0] ?? ''}`.slice(0, 9).trim();
}
