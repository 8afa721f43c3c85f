import { fansOf } from '../../model/document/fans';
import { useSession } from '../../model/save/context';

/** How many fans the shown variant has. */
export const useFans = (): 0 | 1 | 2 =>
  useSession((s) => {
    const variant = s.build.variants[s.variant];
    return variant ? fansOf(variant) : 0;
  });
