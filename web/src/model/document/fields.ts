/** What the published schema says of a field, found by its JSON pointer within a build. */

import schema from '../api/build.schema.json';
import type { Build } from '../api/types';
import wishes from '../api/wishes.schema.json';

export interface FieldSpec {
  readonly title: string;
  readonly description: string;
  readonly quantity: string;
  readonly low: number | null;
  readonly high: number | null;
  readonly needed: boolean;
  /** Taken when the value is not known: a number, or words for what it follows from. */
  readonly assumed: number | string | null;
  readonly guess: boolean;
  readonly nullMeans: string | null;
  readonly labels: Record<string, string> | null;
  /** Where each choice stands, if there are many. */
  readonly groups: readonly (readonly [string, readonly string[]])[];
  readonly relevantWhen: Record<string, unknown[]> | null;
  /** What a new build starts with; null where that is "don't know". */
  readonly initial: unknown;
}

interface Node {
  $ref?: string;
  properties?: Record<string, Node>;
  items?: Node;
  anyOf?: Node[];
  type?: string;
  minimum?: number;
  maximum?: number;
  title?: string;
  description?: string;
  quantity?: string;
  needed?: boolean;
  assumed?: number | string;
  guess?: boolean;
  null_means?: string;
  labels?: Record<string, string>;
  groups?: readonly (readonly [string, readonly string[]])[];
  relevant_when?: Record<string, unknown[]>;
  default?: unknown;
}

const definitions = (schema as unknown as { $defs: Record<string, Node> }).$defs;

function resolved(node: Node): Node {
  const target = node.$ref ?? node.anyOf?.find((option) => option.$ref)?.$ref;
  return target ? (definitions[target.split('/').at(-1) ?? ''] ?? node) : node;
}

function step(node: Node, part: string): Node | undefined {
  const inner = resolved(node);
  const list = inner.items ?? inner.anyOf?.find((option) => option.items)?.items;
  if (list && /^\d+$/.test(part)) return list;
  return inner.properties?.[part];
}

const known = new Map<string, FieldSpec>();

/** The field at a pointer such as /variants/0/radiator/width_mm. */
export function fieldSpec(path: string): FieldSpec {
  const key = path.replace(/\/\d+(?=\/|$)/g, '/0');
  const found = known.get(key);
  if (found) return found;
  let node: Node | undefined = schema as unknown as Node;
  for (const part of key.slice(1).split('/')) node = node && step(node, part);
  if (!node) throw new Error(`the schema has no field ${path}`);
  const spec = specOf(node);
  known.set(key, spec);
  return spec;
}

/** A wish of a sizing, by its name. */
export function wishSpec(name: string): FieldSpec {
  const node = (wishes as unknown as Node).properties?.[name];
  if (!node) throw new Error(`there is no wish ${name}`);
  return specOf(node);
}

function specOf(node: Node): FieldSpec {
  const number = node.anyOf?.find((option) => option.minimum !== undefined) ?? node;
  return {
    title: node.title ?? '',
    description: node.description ?? '',
    quantity: node.quantity ?? 'text',
    low: number.minimum ?? null,
    high: number.maximum ?? null,
    needed: node.needed ?? false,
    assumed: node.assumed ?? null,
    guess: node.guess ?? false,
    nullMeans: node.null_means ?? null,
    labels: node.labels ?? null,
    groups: node.groups ?? [],
    relevantWhen: node.relevant_when ?? null,
    initial: node.default ?? null,
  };
}

export function valueAt(build: Build, path: string): unknown {
  let value: unknown = build;
  for (const part of path.slice(1).split('/'))
    value = (value as Record<string, unknown> | undefined)?.[part];
  return value;
}

/** A copy of the build with one value changed. */
export function withValue(build: Build, path: string, value: unknown): Build {
  const set = (node: unknown, parts: string[]): unknown => {
    const [head, ...rest] = parts;
    if (head === undefined) return value;
    if (Array.isArray(node))
      return node.map((entry, i) => (String(i) === head ? set(entry, rest) : entry));
    const object = node as Record<string, unknown>;
    return { ...object, [head]: set(object[head], rest) };
  };
  return set(build, path.slice(1).split('/')) as Build;
}

/** Whether a field matters, given the choices made beside it. */
export function isRelevant(build: Build, path: string): boolean {
  const when = fieldSpec(path).relevantWhen;
  if (!when) return true;
  const root = path.split('/').slice(0, 3).join('/');
  const beside = path.slice(0, path.lastIndexOf('/'));
  return Object.entries(when).every(([pointer, allowed]) => {
    if (pointer.includes('/*/')) {
      // Anywhere in the build: /cases/*/kind, /variants/*/air/condenser.
      const [list = '', rest = ''] = pointer.split('/*/');
      const entries = (valueAt(build, list) ?? []) as unknown[];
      return entries.some((_, i) => allowed.includes(valueAt(build, `${list}/${i}/${rest}`)));
    }
    const at = pointer.startsWith('/') ? `${root}${pointer}` : `${beside}/${pointer}`;
    return allowed.includes(valueAt(build, at));
  });
}

/** Whether two values of a document are the same, in whatever order their fields stand. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].every((key) => sameValue(left[key], right[key]));
}

/** What a field is called; the last word of its path where the schema does not say. */
export function titleAt(path: string): string {
  try {
    return fieldSpec(path).title || (path.split('/').at(-1) ?? path);
  } catch {
    return path.split('/').at(-1) ?? path;
  }
}
