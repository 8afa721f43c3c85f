import { Labelled } from '../../kit/field/Labelled';
import { Input } from '../../kit/primitives';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

/** What a text comes to as a quantity in the document's unit: null where it is empty, undefined where it cannot be read, so
 * that nothing is answered as if it had not been typed. */
export function useFigure(text: string, quantity: string): number | null | undefined {
  const units = useUnits((u) => u.units);
  if (text.trim() === '') return null;
  const parsed = parseQuantity(text, quantity, units);
  return parsed.ok ? parsed.value : undefined;
}

/** One figure of a form that is not part of the document. */
export function Figure({
  label,
  quantity,
  text,
  onText,
  help,
}: {
  readonly label: string;
  readonly quantity: string;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly help?: string;
}) {
  const units = useUnits((u) => u.units);
  const parsed = text.trim() === '' ? null : parseQuantity(text, quantity, units);
  const wrong = parsed && !parsed.ok ? parsed.message : null;
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
