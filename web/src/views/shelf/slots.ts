/** Where parts of the shelf belong in a build. */

import type { Build, ShelfKind, ShelfPart, Variant } from '../../model/api/types';
import { fieldSpec, sameValue } from '../../model/document/fields';
import type { StationName } from '../../model/document/stations';

export const slots: Record<
  ShelfKind,
  { readonly path: readonly string[]; readonly station: StationName; readonly plural: string }
> = {
  radiator: { path: ['radiator'], station: 'radiator', plural: 'Radiators' },
  fan: { path: ['air', 'fan'], station: 'air', plural: 'Fans' },
  pump: { path: ['circuit'], station: 'flow', plural: 'Pumps' },
  thermostat: { path: ['thermostat'], station: 'thermostat', plural: 'Thermostats' },
  cap: { path: ['cap'], station: 'cap', plural: 'Caps' },
  coolant: { path: ['coolant'], station: 'coolant', plural: 'Coolants' },
};

export const shelfKinds = Object.keys(slots) as ShelfKind[];

export function shelfKindAt(station: StationName): ShelfKind | null {
  return shelfKinds.find((kind) => slots[kind].station === station) ?? null;
}

type Node = Record<string, unknown>;

/** The part of a variant that a kind of the shelf fills. */
export function fittedPart(variant: Variant, kind: ShelfKind): Node {
  let node: unknown = variant;
  for (const name of slots[kind].path) node = (node as Node | undefined)?.[name];
  return (node as Node | undefined) ?? {};
}

/** The build with a part of the shelf copied into one variant; what the part does not say is "don't know". */
export function withPart(
  build: Build,
  index: number,
  part: ShelfPart,
  all: readonly string[],
): Build {
  const at = `/variants/0/${slots[part.part].path.join('/')}`;
  const blank = Object.fromEntries(all.map((name) => [name, fieldSpec(`${at}/${name}`).initial]));
  const fill = (node: Node, path: readonly string[]): Node => {
    const [head, ...rest] = path;
    if (head === undefined)
      return {
        ...node,
        ...blank,
        ...part.values,
        from_shelf: { id: part.id, version: part.version },
      };
    return { ...node, [head]: fill((node[head] as Node) ?? {}, rest) };
  };
  return {
    ...build,
    variants: build.variants.map((variant, i) =>
      i === index ? (fill(variant as unknown as Node, slots[part.part].path) as Variant) : variant,
    ),
  };
}

/** Whether the fitted values are still those of the part. */
export function unchanged(variant: Variant, part: ShelfPart): boolean {
  const fitted = fittedPart(variant, part.part);
  return Object.entries(part.values).every(([name, value]) => sameValue(fitted[name], value));
}

/** A part of the build as the shelf writes it, with an id made from its name. */
export function asShelfPart(
  variant: Variant,
  kind: ShelfKind,
  fields: readonly string[],
  name: string,
): Omit<ShelfPart, 'version'> {
  const fitted = fittedPart(variant, kind);
  const values = Object.fromEntries(
    fields.filter((field) => fitted[field] != null).map((field) => [field, fitted[field]]),
  );
  return { part: kind, id: idOf(name), name, note: '', price: null, mass_kg: null, values };
}

export function idOf(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[̀-ͯ]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return (plain || 'part').slice(0, 64);
}
