import type { Evaluation } from '../api/types';
import { type StationName, stationOf } from '../bench/stations';
import { Box, Button, Heading, Words } from '../theme/primitives';
import { Sentence } from '../words/Sentence';

/** Findings, and what was guessed, beside the cases. */
export function Side({
  evaluation,
  shownId,
  onOpen,
}: {
  readonly evaluation: Evaluation;
  readonly shownId: string;
  readonly onOpen: (station: StationName) => void;
}) {
  const findings = evaluation.findings.filter(
    (f) => f.case_id === null || f.case_id === shownId || f.kind === 'warning',
  );
  const guesses = evaluation.assumed.filter((a) => a.guess);
  return (
    <Box
      as="aside"
      aria-label="Worth knowing"
      paddingInline="4"
      paddingBlock="2"
      borderLeft={{ lg: '1px solid' }}
      borderColor={{ lg: 'rule' }}
    >
      {findings.length > 0 && (
        <>
          <Heading>Worth knowing</Heading>
          <ul>
            {findings.map((f) => (
              <li key={JSON.stringify(f)}>
                <Words
                  size="small"
                  tone={f.kind === 'warning' ? 'fails' : 'quiet'}
                  display="block"
                  marginTop="1"
                >
                  {f.kind === 'warning' && <b>Mind: </b>}
                  <Sentence text={f.text} />
                </Words>
              </li>
            ))}
          </ul>
        </>
      )}
      {guesses.length > 0 && (
        <>
          <Heading marginTop="3">Guessed, not known</Heading>
          <Box>
            {guesses.map((a) => (
              <Button
                key={a.path}
                look="bare"
                textStyle="small"
                whiteSpace="normal"
                textAlign="left"
                onClick={() => {
                  const station = stationOf(a.path);
                  if (station) onOpen(station);
                }}
              >
                {a.title}
              </Button>
            ))}
          </Box>
        </>
      )}
      <Words size="small" tone="quiet" display="block" marginTop="3">
        A design aid. Tested parts, local codes and a licensed technician come first.
      </Words>
    </Box>
  );
}
