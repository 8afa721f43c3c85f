import { Dialog } from '../kit/overlay/Dialog';
import { Box, Words } from '../kit/primitives';
import { glossary } from '../kit/words/glossary';

const entries = Object.values(glossary).sort((a, b) => a.word.localeCompare(b.word));

/** What the words of the trade and of this page mean. */
export function WordsDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog title="Words" onClose={onClose}>
      <dl>
        {entries.map(({ word, says }) => (
          <Box
            key={word}
            display="grid"
            gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '170px minmax(0,1fr)' }}
            borderTop="1px solid"
            borderColor="rule"
            paddingBlock="2"
          >
            <dt>
              <Words fontWeight="strong">{word}</Words>
            </dt>
            <dd>
              <Words>{says}</Words>
            </dd>
          </Box>
        ))}
      </dl>
    </Dialog>
  );
}
