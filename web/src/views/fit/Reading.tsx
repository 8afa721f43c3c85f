import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Button, Input } from '../../kit/primitives';
import forms from '../../model/api/forms.json';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { useFigure, wrongOf } from './Figure';

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
  const units = useUnits((u) => u.units);
  const [text, setText] = useState('');
  const value = useFigure(text, reading.quantity, forms.JobEntry.value);
  const wrong = wrongOf(text, reading.name, reading.quantity, units, forms.JobEntry.value);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (value == null) return;
        onRead(value);
        setText('');
      }}
    >
      <Labelled
        quiet
        label={reading.name}
        unit={shownUnit(reading.quantity, units).symbol}
        wrong={wrong}
        beside={
          <Button type="submit" disabled={value == null}>
            {word}
          </Button>
        }
        marginTop="3"
        maxWidth="380px"
      >
        <Input
          value={text}
          inputMode="decimal"
          autoComplete="off"
          paddingRight="52px"
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
    </form>
  );
}
