/** Which variant is shown of a document that has changed. */

import type { Build } from '../api/types';

/** Where in a document the first of some variants is that it has; of none of them the place that was shown, or the last. */
export function shownIn(next: Build, ids: readonly (string | undefined)[], place: number): number {
  for (const id of ids) {
    const index = next.variants.findIndex((entry) => entry.id === id);
    if (index >= 0) return index;
  }
  return Math.min(place, next.variants.length - 1);
}
