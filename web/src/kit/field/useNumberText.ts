import { useState } from 'react';
import { type FieldSpec, fieldSpec, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { editable } from '../../model/units/format';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit, type Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

interface Typed {
  readonly text: string;
  readonly value: number | null;
  readonly units: Units;
}

/** The text of a number's field: what is being typed, what could not be read, or the stored value; the ``offered``
 * one where the document does not have the field yet. */
export function useNumberText(path: string, offered?: number) {
  const spec = fieldSpec(path);
  const units = useUnits((u) => u.units);
  const found = useSession((s) => valueAt(s.build, path)) as number | null | undefined;
  const value = found === undefined ? offered : found;
  const kept = useSession((s) => s.texts[path]);
  const setValue = useSession((s) => s.setValue);
  const setText = useSession((s) => s.setText);
  const [typing, setTyping] = useState<Typed | null>(null);
  const stored = value === null || value === undefined ? '' : editable(value, spec.quantity, units);

  function change(next: string) {
    const mayBeEmpty = spec.needed || spec.assumed !== null || spec.nullMeans !== null;
    if (next.trim() === '' && mayBeEmpty) {
      setTyping({ text: next, value: null, units });
      return setValue(path, null);
    }
    if (refusal(next, path, units) !== null) return setText(path, next);
    const parsed = parseQuantity(next, spec.quantity, units);
    if (!parsed.ok) return;
    setTyping({ text: next, value: parsed.value, units });
    setValue(path, parsed.value);
  }

  // What was typed is shown as it was typed, unless the value or the units have changed since.
  const still = typing?.value === (value ?? null) && typing?.units === units;
  const typed = typing !== null && still ? typing.text : null;
  return {
    text: kept ?? typed ?? stored,
    wrong: kept === undefined ? null : refusal(kept, path, units),
    change,
    leave: () => setTyping(null),
    value,
    units,
  };
}

/** Why a text cannot be taken for the field, or null. */
export function refusal(text: string, path: string, units: Units): string | null {
  return refused(text, fieldSpec(path), units);
}

/** The same by what is said of the field. */
export function refused(
  text: string,
  spec: Pick<FieldSpec, 'title' | 'quantity' | 'low' | 'high'>,
  units: Units,
): string | null {
  if (text.trim() === '') return `${spec.title} needs a value.`;
  const parsed = parseQuantity(text, spec.quantity, units);
  if (!parsed.ok) return parsed.message;
  const { low, high } = spec;
  // Converting there and back must not push a limit's own value outside.
  const slack = 1e-9 * Math.max(Math.abs(low ?? 0), Math.abs(high ?? 0));
  if (
    low !== null &&
    high !== null &&
    (parsed.value < low - slack || parsed.value > high + slack)
  ) {
    const ends = [low, high].map((end) => editable(end, spec.quantity, units));
    const unit = shownUnit(spec.quantity, units).symbol;
    return `${spec.title} must lie within ${ends[0]} to ${ends[1]} ${unit}.`.replace(' .', '.');
  }
  if (spec.quantity === 'count' && !Number.isInteger(parsed.value))
    return `${spec.title} must be a whole number.`;
  return null;
}
