import { valueAt } from '../document/fields';
import { useSession } from './context';

/** What the shown variant has, or what was assumed for it; null where neither is a number. */
export function useTaken(field: string): number | null {
  return useSession((s) => {
    const path = `/variants/${s.variant}/${field}`;
    const taken =
      valueAt(s.build, path) ?? s.evaluation?.assumed.find((a) => a.path === path)?.value;
    return typeof taken === 'number' ? taken : null;
  });
}
