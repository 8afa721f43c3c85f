import { memo } from 'react';
import { Box, Station, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { Evaluation } from '../../model/api/types';
import { boundOf, hottest } from '../../model/words/hottest';

/** The cases as a strip of verdicts, while an editor needs the room. */
export const Strip = memo(function Strip({
  evaluation,
  shownId,
  onShow,
}: {
  readonly evaluation: Evaluation;
  readonly shownId: string;
  readonly onShow: (id: string) => void;
}) {
  return (
    <Box
      as="section"
      aria-label="Verdicts"
      display="flex"
      flexWrap="wrap"
      gap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="2"
      borderBottom="1px solid"
      borderColor="rule"
    >
      {evaluation.cases.map((entry) => (
        <Station
          key={entry.id}
          aria-pressed={entry.id === shownId}
          onClick={() => onShow(entry.id)}
          background={entry.id === shownId ? 'raised' : 'transparent'}
          color="ink"
          borderColor={entry.id === shownId ? 'edge' : 'rule'}
          paddingBlock="1"
          paddingInline="3"
          _pressed={{
            background: 'raised',
            color: 'ink',
            borderColor: 'edge',
            _hover: { background: 'accentSoft' },
          }}
        >
          <Words size="small" display="block">
            {entry.name}
          </Words>
          <Words size="small" display="flex" alignItems="center" gap="2" fontWeight="strong">
            <VerdictMark verdict={entry.verdict} />
            <span>
              {boundOf(entry)}
              <Quantity value={hottest(entry)} kind="temperature" none="never settles" />
            </span>
          </Words>
        </Station>
      ))}
    </Box>
  );
});
