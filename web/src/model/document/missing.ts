/** Values without which there is no answer: known here, so that an unfinished build is not sent to be judged. */

import type { Build, ProblemField } from '../api/types';
import { fieldSpec, isRelevant, valueAt } from './fields';
import { caseFields, stationNames, stations } from './stations';

const ofVariants = stationNames.flatMap((name) =>
  stations[name].groups.flatMap((group) => group.fields),
);

/** Every one that a variant and the cases lack, as the server would name them. */
export function missingValues(build: Build, variant: number): ProblemField[] {
  const lacking = (path: string) => {
    const spec = fieldSpec(path);
    return spec.needed && (valueAt(build, path) ?? null) === null && isRelevant(build, path);
  };
  // As the server does: the cases are looked at once the variant is whole.
  const inVariant = ofVariants.map((field) => `/variants/${variant}/${field}`).filter(lacking);
  const paths =
    inVariant.length > 0
      ? inVariant
      : build.cases.flatMap((_, i) =>
          caseFields.map((field) => `/cases/${i}/${field}`).filter(lacking),
        );
  return paths.map((path) => {
    const { title, description, low, high } = fieldSpec(path);
    return { path, message: `${title} is needed for an answer. ${description}`, low, high };
  });
}
