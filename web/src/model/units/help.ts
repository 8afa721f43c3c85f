/** Figures within what the server says of a field in plain words, which are in the document's units. */

import { shown } from './format';
import { shownUnit, type Units } from './quantities';

/** Of which quantity the figures are that come with a unit; lengths of less than 5 mm are those of tubes and scale. */
const QUANTITIES: Readonly<Record<string, (value: number) => string>> = {
  'L/min': () => 'coolant_flow',
  'km/h': () => 'speed',
  K: () => 'temperature_difference',
  '°C': () => 'temperature',
  kPa: () => 'pressure',
  kW: () => 'power',
  kg: () => 'mass',
  mm: (value) => (value < 5 ? 'small_length' : 'length'),
};

/** What is so much per something of the document's is left as it is. */
const FIGURES =
  /(\d+(?:\.\d+)?)(?: to (\d+(?:\.\d+)?))? (L\/min|km\/h|K|mm|°C|kPa|kW|kg)(?![\w/]| per )/g;

/** A text with its figures in the reader's units; a fin pitch beside its fins per inch stays as it is. */
export function inUnits(text: string, units: Units): string {
  return text.replace(FIGURES, (whole, first: string, last: string | undefined, symbol: string) => {
    const quantity = QUANTITIES[symbol]?.(Number(last ?? first)) ?? 'text';
    if (text.includes('fins per inch') || shownUnit(quantity, units).symbol === symbol)
      return whole;
    const from = shown(Number(first), quantity, units);
    const to = last === undefined ? '' : ` to ${shown(Number(last), quantity, units).number}`;
    return `${from.number}${to} ${from.unit}`;
  });
}
