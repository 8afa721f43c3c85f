/** The requirement as a text that can be handed to a radiator shop. */

import type { SizedRequirement } from '../../model/api/types';
import type { Units } from '../../model/units/quantities';
import { plainText } from '../../model/words/plainText';

export function specification(build: string, required: SizedRequirement, units: Units): string {
  const lines = [`Radiator for ${build}`];
  for (const [title, texts] of toldTo(required))
    lines.push('', `${title}:`, ...texts.map((text) => `- ${plainText(text, units)}`));
  lines.push('', 'A design aid: tested parts, local codes and a licensed technician come first.');
  return lines.join('\n');
}

/** What a radiator shop is told, by title. */
export function toldTo(required: SizedRequirement) {
  const all = [
    ['Ask for', required.ask],
    ['Measure', required.measure],
    ['Refuse', required.refuse],
    ['Mind', required.cautions ?? []],
  ] as const;
  return all.filter(([, texts]) => texts.length > 0);
}
