import type { Text } from '../../model/api/types';
import { Words } from '../primitives';
import { Sentence } from './Sentence';

/** What is to be minded about what stands above. */
export function Mind({
  texts,
  small = false,
}: {
  readonly texts: readonly Text[] | undefined;
  readonly small?: boolean;
}) {
  return texts?.map((text) => (
    <Words
      key={JSON.stringify(text)}
      size={small ? 'small' : 'body'}
      tone="tight"
      display="block"
      gridColumn="1 / -1"
      marginTop={small ? '0' : '1'}
    >
      <b>Mind: </b>
      <Sentence text={text} />
    </Words>
  ));
}
