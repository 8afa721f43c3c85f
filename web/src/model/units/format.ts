/** A number of the document as a person reads it. */

import { inDays } from '../words/days';
import { kindOf, shownUnit, type Units } from './quantities';

export interface Shown {
  readonly number: string;
  readonly unit: string;
}

/** Rounded to the digits that are true, with its unit apart. */
export function shown(value: number, quantity: string, units: Units): Shown {
  if (quantity === 'chance') return { number: inDays(value), unit: '' };
  if (quantity === 'factor') return { number: minus(value, 1), unit: 'times' };
  // A price that somebody gave is said as it was given; what money comes to by figures of ours, in whole ones.
  if (quantity === 'price')
    return { number: minus(value, Number.isInteger(value) ? 0 : 2), unit: units.currency ?? '' };
  if (quantity === 'money') return { number: minus(value, 0), unit: units.currency ?? '' };
  const unit = shownUnit(quantity, units);
  const converted = unit.fromDocument(value);
  let decimals = kindOf(quantity).decimals[unit.symbol] ?? significantDecimals(converted);
  if (quantity === 'airflow' && unit.symbol === 'm³/s' && Math.abs(converted) < 0.2) decimals = 3;
  if (unit.symbol === 'hp' && Math.abs(converted) < 20) decimals = 1;
  // What drives coolant without a pump, and how it creeps then, is not nothing.
  const slight = converted !== 0 && Math.abs(converted) < (quantity === 'pressure' ? 1 : 0.1);
  if (slight && (quantity === 'pressure' || quantity === 'velocity'))
    decimals = significantDecimals(converted);
  if (quantity === 'ratio') decimals = significantDecimals(converted);
  return { number: minus(converted, decimals), unit: unit.symbol };
}

export function formatQuantity(value: number, quantity: string, units: Units): string {
  const { number, unit } = shown(value, quantity, units);
  return unit === '' || unit === '%' || unit === '°'
    ? `${number}${unit && ` ${unit}`}`
    : `${number} ${unit}`;
}

/** As an editor shows it: precise enough that reading it back gives the same value. */
export function editable(value: number, quantity: string, units: Units): string {
  const unit = shownUnit(quantity, units);
  const converted = unit.fromDocument(value);
  return String(Number(converted.toPrecision(5))).replace('-', '−');
}

function significantDecimals(value: number): number {
  const size = Math.abs(value);
  if (size >= 10) return 1;
  return size >= 0.1 ? 2 : 3;
}

const formats = new Map<number, Intl.NumberFormat>();

/** With so many decimals, a true minus, and no minus before nothing. */
function minus(value: number, decimals: number): string {
  let format = formats.get(decimals);
  if (!format) {
    format = new Intl.NumberFormat('en', {
      minimumFractionDigits: decimals,
      maximumFractionDigits: decimals,
      useGrouping: false,
    });
    formats.set(decimals, format);
  }
  const text = format.format(value);
  return text.replace('-', Number(text) === 0 ? '' : '−');
}
