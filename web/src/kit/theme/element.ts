/** Chakra's elements, drawn anew only where they say something else than before. */

import { chakra } from '@chakra-ui/react';
import { memo } from 'react';

type Props = Readonly<Record<string, unknown>>;

const plain = (value: unknown): value is Props =>
  typeof value === 'object' &&
  value !== null &&
  Object.getPrototypeOf(value) === Object.prototype &&
  !('$$typeof' in value);

/** Whether props are the same, styles that are written where they stand by what they say. What React made is itself alone. */
export function same(before: Props, after: Props): boolean {
  const names = Object.keys(after);
  return (
    names.length === Object.keys(before).length &&
    names.every((name) => {
      const [was, is] = [before[name], after[name]];
      return name in before && (Object.is(was, is) || (plain(was) && plain(is) && same(was, is)));
    })
  );
}

/** Chakra's factory. When one number changes most of a page does not: what Chakra does for each element is left out for those. */
export const element = ((...made: Parameters<typeof chakra>) =>
  memo(chakra(...made), same)) as unknown as typeof chakra;
