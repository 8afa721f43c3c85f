import type { ComponentProps } from 'react';
import type { Text } from '../../model/api/types';
import { Paragraph } from '../primitives';
import { Sentence } from './Sentence';

/** Texts of the server one below the other; they have no names, only an order that stays. */
export function Paragraphs({
  texts,
  ...look
}: { readonly texts: readonly Text[] } & Omit<ComponentProps<typeof Paragraph>, 'children'>) {
  return (
    <>
      {texts.map((text, n) => {
        const key = `${n}`;
        return (
          <Paragraph key={key} {...look}>
            <Sentence text={text} />
          </Paragraph>
        );
      })}
    </>
  );
}
