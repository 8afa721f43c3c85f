/** What a person typed, as a number in the document's unit; or why it cannot be read. */

import { kindOf, shownUnit, type Units } from './quantities';

export type Parsed = { ok: true; value: number } | { ok: false; message: string };

const NUMBER = /^\s*([+\-−]?(?:\d[\d\s]*(?:[.,]\d+)*|[.,]\d+)(?:e[+-]?\d+)?)\s*(.*?)\s*$/i;

/** Groups of thousands between like marks: 1,234 or 1.234.567. */
const GROUPS = /^[+-]?\d{1,3}(?:([.,])\d{3})(?:\1\d{3})*$/;
/** What one reads as thousands and another as thousandths; a nought before it leaves thousandths alone. */
const EITHER = /^[+-]?[1-9]\d{0,2},\d{3}$/;

/** A number with a decimal point or comma, its thousands apart by the other mark or by spaces; NaN where it is none. */
export function readNumber(text: string): number {
  const bare = text
    .trim()
    .replace(/(\d)\s+(?=\d)/g, '$1')
    .replace('−', '-');
  const [number = '', power = ''] = bare.split(/(?=e)/i);
  if (number === '' || EITHER.test(number)) return Number.NaN;
  const marks = number.match(/[.,]/g) ?? [];
  const last = Math.max(number.lastIndexOf('.'), number.lastIndexOf(','));
  if (marks.length === 1)
    return Number(`${number.slice(0, last)}.${number.slice(last + 1)}${power}`);
  if (marks.length > 1) {
    const alike = marks.every((mark) => mark === marks[0]);
    const whole = alike ? number : number.slice(0, last);
    if (!GROUPS.test(whole)) return Number.NaN;
    const after = alike ? '' : `.${number.slice(last + 1)}`;
    return Number(`${whole.replace(/[.,]/g, '')}${after}${power}`);
  }
  return Number(bare);
}

export function parseQuantity(text: string, quantity: string, units: Units): Parsed {
  const kind = kindOf(quantity);
  const match = NUMBER.exec(text);
  const number = match?.[1]?.trim() ?? '';
  if (EITHER.test(number.replace('−', '-'))) {
    const [whole, rest] = number.split(',');
    const message = `“${number}” can be ${whole}${rest} or ${whole}.${rest}: leave the comma out, or write a point.`;
    return { ok: false, message };
  }
  const value = readNumber(number);
  const examples = kind.units
    .slice(0, 3)
    .map((unit) => unit.symbol)
    .filter(Boolean)
    .join(', ');
  if (!match || !Number.isFinite(value)) {
    const hint = examples ? ` A unit may follow: ${examples}.` : '';
    return { ok: false, message: `“${text.trim()}” is not a number.${hint}` };
  }
  const typed = (match[2] ?? '').trim();
  const unit = typed
    ? kind.units.find(
        (u) =>
          u.symbol.toLowerCase() === typed.toLowerCase() || u.aliases.includes(typed.toLowerCase()),
      )
    : shownUnit(quantity, units);
  if (!unit) {
    const hint = examples ? ` Use ${examples}.` : ' It takes a plain number.';
    return { ok: false, message: `“${typed}” is not a unit that fits here.${hint}` };
  }
  const converted = unit.toDocument(value);
  if (!Number.isFinite(converted))
    return { ok: false, message: `“${text.trim()}” cannot be converted.` };
  return { ok: true, value: converted };
}
