import type { Variant } from '../api/types';

/** How many fans there are: one that the engine drives is alone, whatever else is written. */
export function fansOf({ air }: Variant): 0 | 1 | 2 {
  const kind = air?.fan?.kind ?? 'electric';
  if (kind === 'none') return 0;
  return kind === 'electric' && air?.fan?.fans === 'two' ? 2 : 1;
}
