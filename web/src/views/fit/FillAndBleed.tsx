import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Box, Grid, Heading, Paragraph, Row, Select, Title, Words } from '../../kit/primitives';
import { inMinutes } from '../../kit/steps/clock';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Sentence } from '../../kit/words/Sentence';
import { fillingQuery } from '../../model/api/queries';
import { reasonOf } from '../../model/api/transport';
import type { Filling, TimeBand } from '../../model/api/types';
import { editable } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { openEnded } from './expected';
import { Figure, useFigure } from './Figure';
import type { InJob } from './Fit';

const RUNS = { '840': 'idle, 840 rpm', '1500': 'fast idle, 1500 rpm' } as const;
/** What comes about within so many seconds is not told by the minute: the air of the day is warm enough for it. */
const AT_ONCE = 15;
const TIMES: readonly (readonly [keyof Filling, string])[] = [
  ['upper_warm', 'Upper hose warm to the hand'],
  ['opens', 'Thermostat opens'],
  ['lower_warm', 'Lower hose warm'],
  ['fan_on', 'Fan comes on'],
  ['fan_off', 'Fan goes off again'],
];

/** What the first run of this very build should look like, and which way of filling lets its air out. */
export function FillAndBleed({ build, variant }: InJob) {
  const units = useUnits((u) => u.units);
  const [rpm, setRpm] = useState<keyof typeof RUNS>('840');
  const [typed, setAir] = useState<string | null>(null);
  const air = typed ?? editable(build.site?.ambient_c ?? 30, 'temperature', units);
  const ambient = useFigure(air, 'temperature');
  const readable = ambient !== undefined;
  const answer = useQuery({
    ...fillingQuery(build, { variant, idle_rpm: Number(rpm), ambient_c: ambient ?? null }),
    enabled: readable,
  });
  const found = readable ? answer.data : undefined;
  return (
    <Box paddingBlock="3" maxWidth="1000px">
      <Title>What to expect of the first run</Title>
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '220px 260px' }}
        gap="4"
        marginBlock="3"
      >
        <Figure label="Air of the day" quantity="temperature" text={air} onText={setAir} />
        <Labelled label="Engine speed" help="With the filler open: idle only, never rev it.">
          <Select value={rpm} onChange={(event) => setRpm(event.target.value as keyof typeof RUNS)}>
            {Object.entries(RUNS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </Select>
        </Labelled>
      </Grid>
      {answer.isError && (
        <Paragraph role="alert" tone="fails">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {!found ? (
        <Paragraph>{answer.isError || !readable ? '' : 'Driving it in the model…'}</Paragraph>
      ) : (
        <Grid
          gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) minmax(0,1fr)' }}
          gap="8"
        >
          <Box>
            <Paragraphs texts={found.says} marginTop="1" />
            <Table>
              <TableHead>
                <tr>
                  <Column>After the start</Column>
                  <Column>likely, min</Column>
                  <Column>between, min</Column>
                </tr>
              </TableHead>
              <TableBody>
                {TIMES.map(([name, words]) => (
                  <When key={name} words={words} band={found[name] as TimeBand | null} />
                ))}
              </TableBody>
            </Table>
            <Paragraph size="small" tone="quiet" marginTop="2">
              From this build’s own drives, heater open and its blower off; between is what the cars
              that it could be, by what is guessed of it, come to.
            </Paragraph>
          </Box>
          <Box as="section" aria-label="Ways of filling">
            <Heading>Which way of filling works here</Heading>
            <ul>
              {found.schools.map((school) => (
                <Box
                  as="li"
                  key={school.school}
                  borderTop="1px solid"
                  borderColor="rule"
                  paddingBlock="2"
                >
                  <Row justifyContent="space-between" gap="3">
                    <Words fontWeight="firm">{school.title}</Words>
                    <Words
                      size="small"
                      fontWeight="strong"
                      whiteSpace="nowrap"
                      tone={school.works === null ? 'tight' : school.works ? 'holds' : 'quiet'}
                    >
                      {school.works === null ? 'not known' : school.works ? 'works' : 'no'}
                    </Words>
                  </Row>
                  <Words size="small" tone="quiet">
                    <Sentence text={school.text} />
                  </Words>
                </Box>
              ))}
            </ul>
          </Box>
        </Grid>
      )}
    </Box>
  );
}

function When({ words, band }: { readonly words: string; readonly band: TimeBand | null }) {
  return (
    <TableRow>
      <Cell>{words}</Cell>
      <Cell>
        {!band ? 'not within 90' : band.likely_s < AT_ONCE ? 'at once' : inMinutes(band.likely_s)}
      </Cell>
      <Cell>
        {band && band.high_s >= AT_ONCE
          ? openEnded(band)
            ? `${inMinutes(band.low_s)} or later`
            : `${inMinutes(band.low_s)} to ${inMinutes(band.high_s)}`
          : ''}
      </Cell>
    </TableRow>
  );
}
