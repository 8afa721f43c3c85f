import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Box, Button, Grid, Heading, Paragraph, Row, Select, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { readCap } from '../../model/api/fit';
import forms from '../../model/api/forms.json';
import { reasonOf } from '../../model/api/transport';
import type { CapQuestion, JobEntry } from '../../model/api/types';
import { fieldSpec } from '../../model/document/fields';
import { standingOfJob } from '../../model/jobs/standing';
import { Figure, useFigure } from './Figure';
import type { InJob } from './Fit';
import { Hold } from './Hold';
import { LookInto } from './LookInto';
import { BY_EYE, EVIDENCE, PROOFS, TONES, VERDICTS } from './proofs';
import { TakeBack } from './TakeBack';
import { useAsked } from './useAsked';
import { useFitChoices } from './useFitChoices';

/** Pressure hold, cap, heat cycles and what comes after, each kept with the build. */
export function Prove(of: InJob) {
  return (
    <Grid
      gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 380px' }}
      gap={{ base: '0', lg: '8' }}
      paddingBlock="3"
    >
      <Box>
        <Hold {...of} />
        <CapTester {...of} />
        <ByEye {...of} />
      </Box>
      <Kept {...of} />
    </Grid>
  );
}

function CapTester(of: InJob) {
  const { build, variant, job } = of;
  const hand = useFitChoices((s) => s.hand);
  const marked = build.variants.find((one) => one.id === variant)?.cap?.pressure_kpa ?? null;
  const mark = marked ?? Number(fieldSpec('/variants/0/cap/pressure_kpa').assumed);
  const [lifts, setLifts] = useState('');
  const [keeps, setKeeps] = useState('');
  const [valve, setValve] = useState('');
  const liftsAt = useFigure(lifts, 'pressure', forms.CapQuestion.lifts_kpa);
  const keepsAt = useFigure(keeps, 'pressure', forms.CapQuestion.after_minute_kpa);
  const question: CapQuestion | null =
    liftsAt != null && keepsAt !== undefined && mark > 0
      ? {
          mark_kpa: mark,
          lifts_kpa: liftsAt,
          after_minute_kpa: keepsAt,
          return_valve: valve === '' ? null : (valve as 'opens' | 'stuck'),
        }
      : null;
  const answer = useAsked('cap', question, readCap);
  if (mark === 0) return null;
  return (
    <Box as="section" aria-label="Cap on a tester" marginTop="6">
      <Heading>
        Cap on a tester: its mark is <Quantity value={mark} kind="pressure" />
        {marked === null && ', as long as nobody has read it'}
      </Heading>
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(3, minmax(0,1fr))' }}
        gap="4"
        marginTop="2"
      >
        <Figure
          label="Lets go at"
          quantity="pressure"
          within={forms.CapQuestion.lifts_kpa}
          text={lifts}
          onText={setLifts}
        />
        <Figure
          label="Left after a minute"
          quantity="pressure"
          within={forms.CapQuestion.after_minute_kpa}
          text={keeps}
          onText={setKeeps}
        />
        <Labelled label="Return valve, by hand">
          <Select value={valve} onChange={(event) => setValve(event.target.value)}>
            <option value="">not looked</option>
            <option value="opens">opens</option>
            <option value="stuck">stuck</option>
          </Select>
        </Labelled>
      </Grid>
      {answer.isError && question && (
        <Paragraph role="alert" tone="fails" marginTop="2">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {answer.data && question && (
        <Box role="status">
          <Paragraph tone={TONES[answer.data.verdict]} fontWeight="strong">
            <Sentence text={answer.data.lead} />
          </Paragraph>
          <Row gap="2" flexWrap="wrap" data-print="no">
            <Button
              onClick={() => {
                job.add({
                  kind: 'proof',
                  proof: 'cap',
                  verdict: answer.data?.verdict ?? 'doubt',
                  figures: { lifts_kpa: liftsAt ?? 0 },
                  by: hand,
                });
                setLifts('');
                setKeeps('');
                setValve('');
              }}
            >
              Keep it as a proof: {VERDICTS[answer.data.verdict]}
            </Button>
            {answer.data.verdict === 'fail' && <LookInto of={of} evidence={answer.data.evidence} />}
          </Row>
        </Box>
      )}
    </Box>
  );
}

function ByEye({ job }: InJob) {
  const hand = useFitChoices((s) => s.hand);
  return (
    <Box as="section" aria-label="Seen with one's own eyes" marginTop="6" data-print="no">
      <Heading>Seen with one’s own eyes</Heading>
      <ul>
        {BY_EYE.map((proof) => (
          <Box as="li" key={proof} borderTop="1px solid" borderColor="rule" paddingBlock="1">
            <Row justifyContent="space-between" flexWrap="wrap" gap="2">
              <Words flexBasis={{ base: '100%', md: 'auto' }}>{PROOFS[proof]}</Words>
              <Row gap="2">
                {(Object.keys(VERDICTS) as (keyof typeof VERDICTS)[]).map((verdict) => (
                  <Button
                    key={verdict}
                    aria-label={`${PROOFS[proof]}: ${VERDICTS[verdict]}`}
                    onClick={() => job.add({ kind: 'proof', proof, verdict, by: hand })}
                  >
                    {VERDICTS[verdict]}
                  </Button>
                ))}
              </Row>
            </Row>
          </Box>
        ))}
      </ul>
    </Box>
  );
}

/** Every proof of the build, over all its jobs: the newest first, a leak with what it was before. */
function Kept(of: InJob) {
  const { job } = of;
  const proofs = job.all
    .flatMap((one) => standingOfJob(one.entries).proofs)
    .sort((a, b) => b.at.localeCompare(a.at));
  if (proofs.length === 0)
    return (
      <Paragraph size="small" tone="quiet">
        No proof is kept with this build yet.
      </Paragraph>
    );
  return (
    <Box as="section" aria-label="Proofs kept" marginTop={{ base: '6', lg: '0' }}>
      <Heading>Proofs kept with this build</Heading>
      <ol reversed>
        {proofs.map((one, n) => (
          <Proof
            key={one.id}
            proof={one}
            before={proofs.slice(n + 1).find((other) => other.proof === one.proof) ?? null}
            of={of}
          />
        ))}
      </ol>
    </Box>
  );
}

/** A leak as a hold found it: none where nothing tells it from none, then as much as it may be. */
function Leak({ figures }: { readonly figures: Readonly<Record<string, number>> }) {
  const { leak_ml_h: leak = 0, low_ml_h: low = leak, high_ml_h: high = leak } = figures;
  if (low > 0) return <Quantity value={leak} kind="leak" />;
  if (high < 0) return 'the pressure rose';
  return (
    <>
      up to <Quantity value={high} kind="leak" />
    </>
  );
}

function Proof({
  proof,
  before,
  of,
}: {
  readonly proof: JobEntry;
  readonly before: JobEntry | null;
  readonly of: InJob;
}) {
  const verdict = proof.verdict ?? 'doubt';
  const evidence = EVIDENCE[proof.proof ?? 'hold'];
  return (
    <Box as="li" borderTop="1px solid" borderColor="rule" paddingBlock="2">
      <Row justifyContent="space-between" flexWrap="wrap" gap="2">
        <Words>
          {PROOFS[proof.proof ?? 'hold']}:{' '}
          <Words tone={TONES[verdict]} fontWeight="strong">
            {VERDICTS[verdict]}
          </Words>
          {proof.figures?.leak_ml_h !== undefined && (
            <>
              , <Leak figures={proof.figures} />
              {before?.figures?.leak_ml_h !== undefined && (
                <>
                  , before <Leak figures={before.figures} />
                </>
              )}
            </>
          )}
        </Words>
        <Words size="small" tone="quiet">
          {new Date(proof.at).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}
          {proof.by ? `, ${proof.by}` : ''}
        </Words>
      </Row>
      {proof.note && <Words size="small">“{proof.note}”</Words>}
      {verdict === 'fail' && evidence && <LookInto of={of} evidence={evidence} />}
      <TakeBack what={PROOFS[proof.proof ?? 'hold']} onPress={() => of.job.takeBack(proof.id)} />
    </Box>
  );
}
