/** A solution as one more variant of a build. */

import type { Build, Variant } from '../../model/api/types';

/** The build with the solution's variant at its end, under an id and a name of its own. */
export function withSolution(build: Build, solution: Variant, title: string): Build {
  const ids = new Set(build.variants.map((entry) => entry.id));
  let number = 1;
  while (ids.has(`sized-${number}`)) number += 1;
  const names = new Set(build.variants.map((entry) => entry.name));
  let name = `Sized, ${title}`.slice(0, 110);
  for (let again = 2; names.has(name); again += 1) name = `Sized, ${title} ${again}`.slice(0, 120);
  const variant = { ...structuredClone(solution), id: `sized-${number}`, name };
  return { ...build, variants: [...build.variants, variant] };
}
