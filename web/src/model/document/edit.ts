/** Variants added to and taken from a build. */

import type { Build } from '../api/types';
import { pathsThatDiffer } from './differing';

type Variant = Build['variants'][number];

export const MOST_VARIANTS = 12;
export const FULL = 'The build holds all the variants that it can: remove one first.';
const LONGEST_NAME = 120;
const LONGEST_ID = 64;

/** The build with one more variant at the end, under an id and a name that no other has. */
export function withVariant(build: Build, variant: Variant): Build {
  const ids = new Set(build.variants.map((entry) => entry.id));
  const stem = variant.id.replace(/-\d+$/, '').slice(0, LONGEST_ID - 5);
  let { id } = variant;
  for (let number = 2; ids.has(id); number += 1) id = `${stem}-${number}`;
  const names = new Set(build.variants.map((entry) => entry.name));
  let name = variant.name.slice(0, LONGEST_NAME);
  for (let number = 2; names.has(name); number += 1)
    name = `${variant.name.slice(0, LONGEST_NAME - 5)} ${number}`;
  return { ...build, variants: [...build.variants, { ...structuredClone(variant), id, name }] };
}

/** The build with a copy of a variant at the end. */
export function duplicated(build: Build, id: string): Build {
  const source = build.variants.find((entry) => entry.id === id);
  if (!source) return build;
  return withVariant(build, { ...source, name: `${source.name} again` });
}

/** The build without a variant; the last one stays. */
export function removed(build: Build, id: string): Build {
  if (build.variants.length === 1) return build;
  return { ...build, variants: build.variants.filter((entry) => entry.id !== id) };
}

/** Paths within a variant at which not all of some variants agree. */
export function differences(variants: readonly Variant[]): string[] {
  return pathsThatDiffer(variants).filter((path) => path !== 'id' && path !== 'name');
}

const MOST_COLUMNS = 4;

/** Variants that stand side by side, in their own order: the shown one and the first of the others. */
export function columnsOf(build: Build, shownId: string): Variant[] {
  const shown = build.variants.filter((entry) => entry.id === shownId);
  const rest = build.variants.filter((entry) => entry.id !== shownId);
  const chosen = [...shown, ...rest].slice(0, MOST_COLUMNS);
  return build.variants.filter((entry) => chosen.includes(entry));
}
