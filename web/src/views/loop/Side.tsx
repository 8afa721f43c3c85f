import { memo } from 'react';
import { Box, Heading, Words } from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import type { CaseResult, Evaluation } from '../../model/api/types';
import type { StationName } from '../../model/document/stations';
import { Levers } from './Levers';
import { Measure } from './Measure';

/** Levers, findings, and what was guessed, beside the cases. */
export const Side = memo(function Side({
  evaluation,
  shown,
  onOpen,
}: {
  readonly evaluation: Evaluation;
  readonly shown: CaseResult;
  readonly onOpen: (station: StationName) => void;
}) {
  const findings = evaluation.findings.filter(
    (f) => f.case_id === null || f.case_id === shown.id || f.kind === 'warning',
  );
  return (
    <Box
      as="aside"
      aria-label="Worth knowing"
      paddingInline="4"
      paddingBlock="2"
      borderLeft={{ lg: '1px solid' }}
      borderColor={{ lg: 'rule' }}
    >
      <Levers shown={shown} />
      {findings.length > 0 && (
        <>
          <Heading marginTop="3">Worth knowing</Heading>
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
      <Measure evaluation={evaluation} onOpen={onOpen} />
      <Words size="small" tone="quiet" display="block" marginTop="3">
        A design aid. Tested parts, local codes and a licensed technician come first.
      </Words>
    </Box>
  );
});
