/** What differs between documents, and how a person reads it. */

import type { Build } from '../api/types';
import { formatQuantity } from '../units/format';
import { inUnits } from '../units/help';
import type { Units } from '../units/quantities';
import { inSentence } from '../words/inSentence';
import { fieldSpec, isRelevant, sameValue, titleAt } from './fields';

type Records = Readonly<Record<string, unknown>>;

const LISTS = ['cases', 'variants', 'drives'] as const;

/** Paths at which not all of some documents agree. A curve is one value, however many points it has, and so is what was
 * copied from the shelf; lists of another length differ as a whole. */
export function pathsThatDiffer(documents: readonly unknown[]): string[] {
  const found: string[] = [];
  const walk = (nodes: readonly unknown[], path: string) => {
    const [first] = nodes;
    if (nodes.every((node) => sameValue(node ?? null, first ?? null))) return;
    const inner = nodes.filter(
      (node): node is Records => typeof node === 'object' && node !== null,
    );
    const lists = inner.filter(Array.isArray);
    const apart = inner.length < nodes.length || new Set(lists.map((list) => list.length)).size > 1;
    const one = /(curve|from_shelf)$/.test(path);
    if (apart || one || (lists.length > 0 && lists.length < nodes.length)) {
      found.push(path);
      return;
    }
    for (const name of new Set(inner.flatMap((node) => Object.keys(node))))
      walk(
        inner.map((node) => node[name]),
        path ? `${path}/${name}` : name,
      );
  };
  walk(documents, '');
  return found;
}

/** A build whose cases, variants and drives are found by their ids: one that was added or went leaves the others alone. */
export function byIds(build: Build): Records {
  const named = LISTS.map((list) => [
    list,
    Object.fromEntries((build[list] ?? []).map((entry) => [entry.id, entry])),
  ]);
  return { ...build, ...Object.fromEntries(named) };
}

/** Where what stands at a path of ``byIds`` stands in the build itself; null where the build has no such entry. */
export function placeIn(build: Build, path: string): string | null {
  const [list = '', id = '', ...rest] = path.split('/');
  const entries = LISTS.find((name) => name === list);
  if (!entries || id === '') return `/${path}`;
  const index = (build[entries] ?? []).findIndex((entry) => entry.id === id);
  return index < 0 ? null : ['', list, index, ...rest].join('/');
}

/** What each of some fields is called, by their pointers; with the part that it belongs to where two are called the same, and
 * where all parts call it so. */
export function titlesOf(pointers: readonly string[], units: Units): string[] {
  const titles = pointers.map((pointer) => inUnits(titleAt(pointer), units));
  const fields = pointers.map((pointer) => pointer.replace(/\/\d+(?=\/|$)/g, ''));
  return titles.map((title, i) => {
    const clear = titles.every((other, k) => other !== title || fields[k] === fields[i]);
    if (clear && !pointers[i]?.endsWith('/from_shelf')) return title;
    const part = (pointers[i] ?? '').split('/').at(-2)?.replaceAll('_', ' ') ?? '';
    return `${part.charAt(0).toUpperCase()}${part.slice(1)}: ${inSentence(title)}`;
  });
}

/** The value at a pointer of a build in words. */
export function valueInWords(build: Build, pointer: string, value: unknown, units: Units): string {
  if (pointer.endsWith('/from_shelf')) {
    const taken = value as { id: string; version: number } | null | undefined;
    return taken ? `${taken.id}, version ${taken.version}` : 'not from the shelf';
  }
  if (value === undefined) return 'not there';
  const spec = fieldSpec(pointer);
  if (!isRelevant(build, pointer)) return 'does not apply';
  if (value === null) return spec.nullMeans ?? 'not known';
  if (spec.labels) return spec.labels[String(value)] ?? String(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return listInWords(pointer, value, units);
  if (typeof value === 'object') return 'there';
  if (typeof value === 'number') return formatQuantity(value, spec.quantity, units);
  return String(value);
}

/** A curve point by point, since two of them may have as many; any other list by how much is in it. */
function listInWords(pointer: string, list: readonly unknown[], units: Units): string {
  if (!pointer.endsWith('curve')) return `${list.length}`;
  return (list as Readonly<Record<string, number>>[])
    .map((point) =>
      Object.entries(point)
        .map(([name, value]) =>
          formatQuantity(value, fieldSpec(`${pointer}/0/${name}`).quantity, units),
        )
        .join(' at '),
    )
    .join('; ');
}
