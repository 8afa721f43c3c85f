/** What a person typed, as a number in the document's unit; or why it cannot be read. */

import { kindOf, shownUnit, type Units } from './quantities';

export type Parsed = { ok: true; value: number } | { ok: false; message: string };

const NUMBER = /^\s*([+\-−]?(?:\d[\d\s]*(?:[.,]\d+)*|[.,]\d+)(?:e[+-]?\d+)?)\s*(.*?)\s*$/i;

function toNumber(text: string): number {
  const bare = text.replace(/\s/g, '').replace('−', '-');
  const commas = (bare.match(/,/g) ?? []).length;
  if (commas === 0) return Number(bare);
  // "1,234.5" and "1,234,567" hold thousands; "1,1" is a decimal comma.
  if (bare.includes('.') || commas > 1) return Number(bare.replace(/,/g, ''));
  return Number(bare.replace(',', '.'));
}

export function parseQuantity(text: string, quantity: string, units: Units): Parsed {
  const kind = kindOf(quantity);
  const match = NUMBER.exec(text);
  const value = match ? toNumber(match[1] ?? '') : Number.NaN;
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
