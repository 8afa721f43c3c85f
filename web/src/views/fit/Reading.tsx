import { useId, useState } from 'react';
import { Box, Button, FieldUnit, Input, Row, Words } from '../../kit/primitives';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

/** One figure to be read and written down; what cannot be read is said and stays. */
export function Reading({
  reading,
  onRead,
  word = 'Write down',
}: {
  readonly reading: { readonly name: string; readonly quantity: string };
  readonly onRead: (value: number) => void;
  readonly word?: string;
}) {
  const id = useId();
  const units = useUnits((u) => u.units);
  const [text, setText] = useState('');
  const parsed = text.trim() === '' ? null : parseQuantity(text, reading.quantity, units);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!parsed?.ok) return;
        onRead(parsed.value);
        setText('');
      }}
    >
      <Box marginTop="3">
        <label htmlFor={id}>
          <Words size="small" fontWeight="firm">
            {reading.name}
          </Words>
        </label>
        <Row gap="2">
          <Box position="relative" flex="1" maxWidth="220px">
            <Input
              id={id}
              value={text}
              inputMode="decimal"
              autoComplete="off"
              paddingRight="52px"
              aria-invalid={(parsed && !parsed.ok) || undefined}
              aria-describedby={parsed && !parsed.ok ? `${id}-wrong` : undefined}
              onChange={(event) => setText(event.target.value)}
            />
            <FieldUnit aria-hidden="true">{shownUnit(reading.quantity, units).symbol}</FieldUnit>
          </Box>
          <Button type="submit" disabled={!parsed?.ok}>
            {word}
          </Button>
        </Row>
        {parsed && !parsed.ok && (
          <Words id={`${id}-wrong`} role="alert" size="small" tone="fails" display="block">
            {parsed.message}
          </Words>
        )}
      </Box>
    </form>
  );
}
