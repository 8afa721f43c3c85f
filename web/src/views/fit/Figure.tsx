import { useId } from 'react';
import { Box, FieldUnit, Input, Words } from '../../kit/primitives';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

/** What a text comes to as a quantity in the document's unit; null where it is empty or cannot be read. */
export function useFigure(text: string, quantity: string): number | null {
  const units = useUnits((u) => u.units);
  if (text.trim() === '') return null;
  const parsed = parseQuantity(text, quantity, units);
  return parsed.ok ? parsed.value : null;
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
  const id = useId();
  const units = useUnits((u) => u.units);
  const parsed = text.trim() === '' ? null : parseQuantity(text, quantity, units);
  const wrong = parsed && !parsed.ok ? parsed.message : null;
  return (
    <Box>
      <label htmlFor={id}>
        <Words fontWeight="firm">{label}</Words>
      </label>
      <Box position="relative" marginBlock="1">
        <Input
          id={id}
          value={text}
          inputMode="decimal"
          autoComplete="off"
          paddingRight="52px"
          aria-invalid={wrong !== null || undefined}
          aria-describedby={`${id}-help`}
          onChange={(event) => onText(event.target.value)}
        />
        <FieldUnit aria-hidden="true">{shownUnit(quantity, units).symbol}</FieldUnit>
      </Box>
      <Words
        id={`${id}-help`}
        size="small"
        tone={wrong ? 'fails' : 'quiet'}
        role={wrong ? 'alert' : undefined}
        display="block"
      >
        {wrong ?? help}
      </Words>
    </Box>
  );
}
