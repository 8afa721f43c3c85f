import { useState } from 'react';
import {
  Box,
  Button,
  Grid,
  Heading,
  Paragraph,
  Row,
  Select,
  Title,
  Words,
} from '../../kit/primitives';
import { BandTimer } from '../../kit/steps/BandTimer';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { readCap, readHold, reasonOf } from '../../model/api/client';
import type {
  CapQuestion,
  HoldQuestion,
  HoldResult,
  JobEntry,
  ProofKind,
} from '../../model/api/types';
import { standingOfJob } from '../../model/jobs/standing';
import { Figure, useFigure } from './Figure';
import type { InJob } from './Fit';
import { HoldChart } from './HoldChart';
import { LookInto } from './LookInto';
import { useAsked } from './useAsked';
import { useFitChoices } from './useFitChoices';

const PROOFS: Record<ProofKind, string> = {
  hold: 'Pressure hold',
  cap: 'Cap on a tester',
  first_cycle: 'First heat cycle',
  second_cycle: 'Second heat cycle',
  strength: 'Strength measured',
  road: 'Ten minutes of road',
  cold_morning: 'Cold morning',
  clamps: 'Clamps after 100 km',
};
const VERDICTS = { pass: 'passed', fail: 'failed', doubt: 'in doubt' } as const;
const TONES = { pass: 'holds', fail: 'fails', doubt: 'tight' } as const;
/** What a look with one's own eyes proves: no instrument says it. */
const BY_EYE: readonly ProofKind[] = [
  'first_cycle',
  'second_cycle',
  'road',
  'cold_morning',
  'clamps',
];
const EVIDENCE: Partial<Record<ProofKind, Record<string, string>>> = {
  first_cycle: { complaint: 'loses_coolant' },
  second_cycle: { complaint: 'loses_coolant' },
  road: { complaint: 'runs_hot' },
  cold_morning: { complaint: 'loses_coolant' },
};

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

function Hold(of: InJob) {
  const { build, variant, job } = of;
  const hand = useFitChoices((s) => s.hand);
  const [kpa, setKpa] = useState('');
  const [warm, setWarm] = useState('');
  const [step, setStep] = useState('');
  const value = useFigure(kpa, 'pressure');
  const celsius = useFigure(warm, 'temperature');
  const resolution = useFigure(step, 'pressure');
  const readings = job.standing.gauge.filter(
    (one) => one.value !== null && one.value !== undefined,
  );
  const begun = readings[0]?.at ?? null;
  const temperatures = readings.flatMap((one) => (one.celsius == null ? [] : [one.celsius]));
  const question: HoldQuestion | null =
    readings.length >= 3
      ? {
          build: { ...build, drives: [] },
          variant,
          readings: readings.map((one) => ({
            at_s: (Date.parse(one.at) - Date.parse(begun ?? one.at)) / 1000,
            pressure_kpa: one.value ?? 0,
          })),
          start_c: temperatures.length > 1 ? temperatures[0] : null,
          end_c: temperatures.length > 1 ? temperatures.at(-1) : null,
          resolution_kpa: resolution ?? 2,
          thermometer_k: 0.5,
        }
      : null;
  const answer = useAsked('hold', question, readHold);
  const found = question ? answer.data : undefined;
  return (
    <Box as="section" aria-label="Pressure hold">
      <Title>Pressure hold</Title>
      <Paragraph tone="quiet" marginBlock="1">
        Cold, half an hour, never above the weakest part. Pump, read at once, then every few
        minutes; the coolant’s temperature with the first and the last reading.
      </Paragraph>
      {begun && (
        <BandTimer
          startedAt={begun}
          took={null}
          band={{ low: 1800, high: 3600 }}
          expects="held long enough"
        />
      )}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(3, minmax(0,1fr)) auto' }}
        gap="4"
        alignItems="start"
        marginTop="3"
        data-print="no"
      >
        <Figure label="Gauge now" quantity="pressure" text={kpa} onText={setKpa} />
        <Figure
          label="Coolant now"
          quantity="temperature"
          text={warm}
          onText={setWarm}
          help="May stay open, but hides small leaks."
        />
        <Figure
          label="Step of the gauge"
          quantity="pressure"
          text={step}
          onText={setStep}
          help="Left open: 2 kPa."
        />
        <Button
          look="main"
          marginTop={{ md: '6' }}
          disabled={value === null}
          onClick={() => {
            job.add({
              kind: 'gauge',
              value,
              quantity: 'pressure',
              celsius: celsius ?? undefined,
              by: hand,
            });
            setKpa('');
          }}
        >
          Write it down
        </Button>
      </Grid>
      {readings.length > 0 && <HoldChart readings={readings} />}
      {readings.length > 0 && readings.length < 3 && (
        <Paragraph size="small" tone="quiet">
          {3 - readings.length} more {readings.length === 2 ? 'reading' : 'readings'}, and it can be
          told.
        </Paragraph>
      )}
      {answer.isError && question && (
        <Paragraph role="alert" tone="fails">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {found && (
        <Box role="status" marginTop="3">
          <Paragraph size="large" tone={TONES[found.verdict]}>
            <Sentence text={found.lead} />
          </Paragraph>
          <Paragraphs texts={found.notes} size="small" tone="quiet" />
          <Row gap="2" flexWrap="wrap" data-print="no">
            <Button
              look="main"
              onClick={() =>
                job.add({
                  kind: 'proof',
                  proof: 'hold',
                  verdict: found.verdict,
                  figures: figuresOf(found),
                  by: hand,
                })
              }
            >
              Keep it as a proof: {VERDICTS[found.verdict]}
            </Button>
            {found.verdict === 'fail' && <LookInto of={of} evidence={found.evidence} />}
          </Row>
        </Box>
      )}
    </Box>
  );
}

const figuresOf = (found: HoldResult): Record<string, number> => ({
  leak_ml_h: found.leak_ml_h,
  low_ml_h: found.low_ml_h,
  high_ml_h: found.high_ml_h,
  smallest_ml_h: found.smallest_ml_h,
});

function CapTester(of: InJob) {
  const { build, variant, job } = of;
  const hand = useFitChoices((s) => s.hand);
  const mark = build.variants.find((one) => one.id === variant)?.cap?.pressure_kpa ?? 90;
  const [lifts, setLifts] = useState('');
  const [keeps, setKeeps] = useState('');
  const [valve, setValve] = useState('');
  const liftsAt = useFigure(lifts, 'pressure');
  const keepsAt = useFigure(keeps, 'pressure');
  const question: CapQuestion | null =
    liftsAt !== null && mark > 0
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
      </Heading>
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(3, minmax(0,1fr))' }}
        gap="4"
        marginTop="2"
      >
        <Figure label="Lets go at" quantity="pressure" text={lifts} onText={setLifts} />
        <Figure label="Left after a minute" quantity="pressure" text={keeps} onText={setKeeps} />
        <Words as="label" fontWeight={560}>
          Return valve, by hand
          <Select marginBlock="1" value={valve} onChange={(event) => setValve(event.target.value)}>
            <option value="">not looked</option>
            <option value="opens">opens</option>
            <option value="stuck">stuck</option>
          </Select>
        </Words>
      </Grid>
      {answer.data && question && (
        <Box role="status">
          <Paragraph tone={TONES[answer.data.verdict]} fontWeight={620}>
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
              <Words>{PROOFS[proof]}</Words>
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
  const leak = proof.figures?.leak_ml_h;
  const then = before?.figures?.leak_ml_h;
  const evidence = EVIDENCE[proof.proof ?? 'hold'];
  return (
    <Box as="li" borderTop="1px solid" borderColor="rule" paddingBlock="2">
      <Row justifyContent="space-between" flexWrap="wrap" gap="2">
        <Words>
          {PROOFS[proof.proof ?? 'hold']}:{' '}
          <Words tone={TONES[verdict]} fontWeight={620}>
            {VERDICTS[verdict]}
          </Words>
          {leak !== undefined && (
            <>
              , <Quantity value={leak} kind="leak" />
              {then !== undefined && (
                <>
                  , before <Quantity value={then} kind="leak" />
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
    </Box>
  );
}
