import { useState } from 'react';
import { Box, Button, Grid, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { BandTimer } from '../../kit/steps/BandTimer';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Sentence } from '../../kit/words/Sentence';
import { readHold, simulatedHold } from '../../model/api/fit';
import { reasonOf } from '../../model/api/transport';
import type { HoldQuestion, HoldResult } from '../../model/api/types';
import { Figure, useFigure } from './Figure';
import type { InJob } from './Fit';
import { HoldChart } from './HoldChart';
import { LookInto } from './LookInto';
import { TONES, VERDICTS } from './proofs';
import { useAsked } from './useAsked';
import { useFitChoices } from './useFitChoices';

/** What the simulated gauge can hide. */
const SIMULATED = [
  ['no leak', { leak_ml_h: 0, cools_k: 0 }],
  ['a leak', { leak_ml_h: 60, cools_k: 0 }],
  ['an engine that cools', { leak_ml_h: 0, cools_k: 4 }],
] as const;
/** A pressure hold: readings as they are taken, what they say, and what they could have seen. */
export function Hold(of: InJob) {
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
    readings.length >= 3 && resolution !== undefined
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
  const [told, setTold] = useState<string | null>(null);
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
          disabled={value == null || celsius === undefined}
          onClick={() => {
            job.add({
              kind: 'gauge',
              value,
              quantity: 'pressure',
              celsius: celsius ?? undefined,
              by: hand,
            });
            // A temperature is of the reading that it was taken with.
            setKpa('');
            setWarm('');
          }}
        >
          Write it down
        </Button>
      </Grid>
      <Row gap="2" flexWrap="wrap" marginTop="2" data-print="no">
        <Words size="small" tone="quiet">
          No gauge at hand? The simulated one holds it for 40 minutes, with
        </Words>
        {SIMULATED.map(([words, hidden]) => (
          <Button
            key={words}
            look="bare"
            onClick={() => {
              const seed = Math.floor(Math.random() * 1e6);
              simulatedHold({
                build: { ...build, drives: [] },
                variant,
                seed,
                minutes: 40,
                ...hidden,
              })
                .then((shown) => {
                  setTold(null);
                  const end = Date.now();
                  const last = shown.at(-1)?.at_s ?? 0;
                  for (const one of shown)
                    job.add({
                      kind: 'gauge',
                      at: new Date(end - 1000 * (last - one.at_s)).toISOString(),
                      value: one.pressure_kpa,
                      quantity: 'pressure',
                      celsius: one.celsius,
                      note: 'simulated gauge',
                      by: hand,
                    });
                })
                .catch((error: Error) => setTold(reasonOf(error)));
            }}
          >
            {words}
          </Button>
        ))}
      </Row>
      {told && (
        <Paragraph role="alert" tone="fails">
          {told}
        </Paragraph>
      )}
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
