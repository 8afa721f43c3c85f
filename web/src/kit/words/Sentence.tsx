import { Fragment } from 'react';
import type { Text } from '../../model/api/types';
import { Quantity } from './Quantity';

/** A text of the server with its quantities in the reader's units. */
export function Sentence({ text }: { readonly text: Text }) {
  return (
    <>
      {text.map((part, i) => {
        const key = `${i}`;
        if (typeof part === 'string') return <Fragment key={key}>{part}</Fragment>;
        return <Quantity key={key} value={part.value} kind={part.quantity} bare={part.bare} />;
      })}
    </>
  );
}
