/** Variants added to and taken from a build. */

import type { Build } from '../api/types';
import { pathsThatDiffer } from './differing';

export const MOST_VARIANTS = 12;

/** The build with a copy of a variant at the end. */
export function duplicated(build: Build, id: string): Build {
  const source = build.variants.find((entry) => entry.id === id);
  if (!source) return build;
  const taken = new Set(build.variants.map((entry) => entry.id));
  let number = build.variants.length + 1;
  while (taken.has(`variant-${number}`)) number += 1;
  const copy = {
    ...structuredClone(source),
    id: `variant-${number}`,
    name: `${source.name} again`.slice(0, 120),
  };
  return { ...build, variants: [...build.variants, copy] };
}

/** The build without a variant; the last one stays. */
export function removed(build: Build, id: string): Build {
  if (build.variants.length === 1) return build;
  return { ...build, variants: build.variants.filter((entry) => entry.id !== id) };
}

/** Paths within a variant at which not all of some variants agree. */
export function differences(variants: readonly Build['variants'][number][]): string[] {
  return pathsThatDiffer(variants).filter((path) => path !== 'id' && path !== 'name');
}

const MOST_COLUMNS = 4;

/** Variants that stand side by side, in their own order: the shown one and the first of the others. */
export function columnsOf(build: Build, shownId: string): Build['variants'][number][] {
  const shown = build.variants.filter((entry) => entry.id === shownId);
  const rest = build.variants.filter((entry) => entry.id !== shownId);
  const chosen = [...shown, ...rest].slice(0, MOST_COLUMNS);
  return build.variants.filter((entry) => chosen.includes(entry));
}
