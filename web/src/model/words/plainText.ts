/** A text of the server as a string, its quantities in the reader's units. */

import type { Text } from '../api/types';
import { formatQuantity, shown } from '../units/format';
import type { Units } from '../units/quantities';

export function plainText(text: Text, units: Units): string {
  return (text ?? [])
    .map((part) => {
      if (typeof part === 'string') return part;
      if (part.bare) return shown(part.value, part.quantity, units).number;
      return formatQuantity(part.value, part.quantity, units);
    })
    .join('');
}
