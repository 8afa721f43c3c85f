import type { Build } from '../../model/api/types';

/** A variant by its name, where it is still there. */
export function variantNamed(build: Build, id: string): string {
  const name = build.variants.find((one) => one.id === id)?.name;
  return name === undefined ? 'a variant that is no longer there' : `“${name}”`;
}
