import { Labelled } from '../../kit/field/Labelled';
import { refused } from '../../kit/field/useNumberText';
import { Input } from '../../kit/primitives';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit, type Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

/** Lowest and highest value, in the document's unit: those of model/api/forms.json, which the server keeps to. */
export type Within = readonly number[];

/** Why a text cannot be taken for a figure, or null; an open one can. */
export function wrongOf(
  text: string,
  label: string,
  quantity: string,
  units: Units,
  within?: Within,
): string | null {
  if (text.trim() === '') return null;
  const [low = null, high = null] = within ?? [];
  return refused(text, { title: label, quantity, low, high }, units);
}

/** What a text comes to as a quantity in the document's unit: null where it is empty, undefined where it cannot be taken, so
 * that nothing is answered as if it had not been typed. */
export function useFigure(
  text: string,
  quantity: string,
  within?: Within,
): number | null | undefined {
  const units = useUnits((u) => u.units);
  if (text.trim() === '') return null;
  const parsed = parseQuantity(text, quantity, units);
  return parsed.ok && wrongOf(text, '', quantity, units, within) === null
    ? parsed.value
    : undefined;
}

/** One figure of a form that is not part of the document. */
export function Figure({
  label,
  quantity,
  within,
  text,
  onText,
  help,
}: {
  readonly label: string;
  readonly quantity: string;
  readonly within?: Within;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly help?: React.ReactNode;
}) {
  const units = useUnits((u) => u.units);
  const wrong = wrongOf(text, label, quantity, units, within);
  return (
    <Labelled
      label={label}
      unit={shownUnit(quantity, units).symbol}
      wrong={wrong}
      help={wrong ? null : help}
    >
      <Input
        value={text}
        inputMode="decimal"
        autoComplete="off"
        paddingRight="52px"
        onChange={(event) => onText(event.target.value)}
      />
    </Labelled>
  );
}
