import { useState } from 'react';
import { Box, Button, Heading, Paragraph, Row, Station, Title, Words } from '../../kit/primitives';
import type { Evaluation } from '../../model/api/types';
import { fieldSpec } from '../../model/document/fields';
import { type StationName, stationNames, stationOf, stations } from '../../model/document/stations';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';
import { inUnits } from '../../model/units/help';
import { useUnits } from '../../model/units/store';
import { inSentence } from '../../model/words/inSentence';
import { AddCase } from '../cases/Cases';
import { useCaseEdits } from '../cases/useCaseEdits';
import { useOpenStation } from '../loop/useOpenStation';
import { Needed } from './Needed';

/** Describing the build: what an answer still needs, or what is known and what was guessed. */
export function DescribePage() {
  const places = usePlaces();
  const needed = useSession((s) => s.needed && !s.evaluation);
  // The form stays under the hand that fills it, until it is left.
  const [asking, setAsking] = useState(needed);
  if (needed && !asking) setAsking(true);
  return asking ? (
    <>
      <Needed
        onDone={() => {
          setAsking(false);
          places.to('');
        }}
      />
      <Box paddingInline={{ base: '3', lg: '6' }}>
        <CaseButtons />
      </Box>
    </>
  ) : (
    <Known />
  );
}

type Assumed = Evaluation['assumed'][number];

/** Names of what was guessed among the values that it is asked about. */
function useGuessed() {
  const units = useUnits((u) => u.units);
  const assumed = useSession((s) => s.evaluation?.assumed ?? null);
  return {
    answered: assumed !== null,
    of: (which: (entry: Assumed) => boolean) => {
      const guessed = (assumed ?? []).filter((entry) => entry.guess && which(entry));
      return guessed.map((entry) => inSentence(inUnits(entry.title, units)));
    },
  };
}

function Known() {
  const { answered, of } = useGuessed();
  const open = useOpenStation();
  const guesses = (station: StationName) => of((entry) => stationOf(entry.path) === station);
  return (
    <Box as="section" aria-label="Describe" paddingInline={{ base: '3', lg: '6' }} paddingBlock="4">
      <Title>What is known</Title>
      <Paragraph tone="quiet" marginBlock="2">
        A value that you leave open is taken from experience and counts as a guess: the answer says
        how much hangs on it. Measure what settles most.
      </Paragraph>
      <ul>
        {stationNames.map((name) => {
          const guessed = guesses(name);
          return (
            <Box as="li" key={name} marginBottom="2">
              <Station
                width="100%"
                display="grid"
                gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '220px minmax(0,1fr)' }}
                gap="1"
                onClick={() => open(name)}
              >
                <Words size="strong">{stations[name].title}</Words>
                <Words size="small" tone={guessed.length > 0 ? 'tight' : 'quiet'}>
                  {!answered
                    ? '…'
                    : guessed.length === 0
                      ? 'nothing guessed'
                      : `${guessed.length} guessed: ${guessed.join(', ')}`}
                </Words>
              </Station>
            </Box>
          );
        })}
      </ul>
      <CaseButtons />
    </Box>
  );
}

function CaseButtons() {
  const cases = useSession((s) => s.build.cases);
  const edits = useCaseEdits();
  const { of } = useGuessed();
  const guessed = cases.flatMap(({ id, name }, i) => {
    const found = of(({ path }) => path.startsWith(`/cases/${i}/`));
    return found.length > 0 ? [{ id, said: `${name}: ${found.join(', ')} guessed` }] : [];
  });
  return (
    <Box paddingBlock="3">
      <Heading>Cases</Heading>
      {guessed.map(({ id, said }) => (
        <Paragraph key={id} size="small" tone="tight">
          {said}
        </Paragraph>
      ))}
      {guessed.length > 0 && (
        <Paragraph size="small" tone="quiet">
          The chance takes what is guessed of a case as it stands.
        </Paragraph>
      )}
      <Row flexWrap="wrap" gap="1">
        {cases.map((entry) => (
          <Button key={entry.id} look="bare" onClick={() => edits.open(entry.id)}>
            {entry.name || fieldSpec('/cases/0/name').title}
          </Button>
        ))}
        <AddCase onAdd={edits.add} />
      </Row>
    </Box>
  );
}
