/** Text that cannot be read yet belongs to what it was typed for, wherever that stands in the document. */

import type { Build } from '../api/types';

/** The texts at their paths in the document as it is now; those of what is gone go with it. */
export function movedTexts(
  texts: Record<string, string>,
  before: Build,
  after: Build,
): Record<string, string> {
  const paths = Object.keys(texts);
  if (paths.length === 0) return texts;
  const moved: Record<string, string> = {};
  for (const path of paths) {
    const next = movedPath(path, before, after);
    if (next !== null) moved[next] = texts[path] ?? '';
  }
  return moved;
}

function movedPath(path: string, before: unknown, after: unknown): string | null {
  const [, ...parts] = path.split('/');
  let [from, to] = [before, after];
  let moved = '';
  for (const [depth, part] of parts.entries()) {
    let next = part;
    if (Array.isArray(from)) {
      const place = Array.isArray(to) ? placeOf(from, Number(part), to) : -1;
      if (place < 0) return null;
      next = String(place);
    }
    moved += `/${next}`;
    from = (from as Record<string, unknown> | null | undefined)?.[part];
    to = (to as Record<string, unknown> | null | undefined)?.[next];
    const last = depth === parts.length - 1;
    if (!last && (to === null || to === undefined)) return null;
  }
  return moved;
}

/** Where an entry of a list stands in the list as it is now, or -1: the entry itself, the one with its id, or, while
 * none was added or taken away, the one in its place. */
function placeOf(from: readonly unknown[], at: number, to: readonly unknown[]): number {
  const entry = from[at];
  const same = to.indexOf(entry);
  if (same >= 0) return same;
  const { id } = (entry ?? {}) as { id?: unknown };
  if (id !== undefined) return to.findIndex((other) => (other as { id?: unknown }).id === id);
  return from.length === to.length ? at : -1;
}
