import { useState } from 'react';
import { Fold } from '../../kit/page/Fold';
import { Box, Button, Grid, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { BandTimer } from '../../kit/steps/BandTimer';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { readHold, simulatedHold } from '../../model/api/fit';
import forms from '../../model/api/forms.json';
import { reasonOf } from '../../model/api/transport';
import type { HoldQuestion, HoldResult, JobEntry } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import { HOLD } from './expected';
import { Figure, useFigure } from './Figure';
import type { InJob } from './Fit';
import { HoldChart } from './HoldChart';
import { LookInto } from './LookInto';
import { TONES, VERDICTS } from './proofs';
import { TakeBack } from './TakeBack';
import { useAsked } from './useAsked';
import { useFitChoices } from './useFitChoices';

/** What the simulated gauge can hide. */
const SIMULATED = [
  ['no leak', { leak_ml_h: 0, cools_k: 0 }],
  ['a leak', { leak_ml_h: 60, cools_k: 0 }],
  ['an engine that cools', { leak_ml_h: 0, cools_k: 4 }],
] as const;

const GAUGE = forms.GaugeReading.pressure_kpa;
const COOLANT = forms.HoldQuestion.start_c;
const STEP = forms.HoldQuestion.resolution_kpa;
const USUAL_STEP = 2; // kPa
const LONGEST = 1000 * (forms.GaugeReading.at_s[1] ?? 0); // ms

/** A pressure hold: readings as they are taken, what they say, and what they could have seen. */
export function Hold(of: InJob) {
  const { build, variant, job } = of;
  const hand = useFitChoices((s) => s.hand);
  const [kpa, setKpa] = useState('');
  const [warm, setWarm] = useState('');
  const [step, setStep] = useState('');
  const value = useFigure(kpa, 'pressure', GAUGE);
  const celsius = useFigure(warm, 'temperature', COOLANT);
  const resolution = useFigure(step, 'pressure', STEP);
  const written = job.standing.gauge.filter((one) => one.value !== null && one.value !== undefined);
  const end = Date.parse(written.at(-1)?.at ?? '');
  // A hold lasts a day at most: what was read before that is of another one.
  const readings = written.filter((one) => end - Date.parse(one.at) <= LONGEST);
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
          resolution_kpa: resolution ?? USUAL_STEP,
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
      {begun && <BandTimer startedAt={begun} took={null} band={HOLD} expects="held long enough" />}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(3, minmax(0,1fr)) auto' }}
        gap="4"
        alignItems="start"
        marginTop="3"
        data-print="no"
      >
        <Figure label="Gauge now" quantity="pressure" within={GAUGE} text={kpa} onText={setKpa} />
        <Figure
          label="Coolant now"
          quantity="temperature"
          within={COOLANT}
          text={warm}
          onText={setWarm}
          help="May stay open, but hides small leaks."
        />
        <Figure
          label="Step of the gauge"
          quantity="pressure"
          within={STEP}
          text={step}
          onText={setStep}
          help={
            <>
              Left open: <Quantity value={USUAL_STEP} kind="pressure" />.
            </>
          }
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
      {readings.length > 0 && <Readings readings={readings} onTakeBack={job.takeBack} />}
      {written.length > readings.length && (
        <Paragraph size="small" tone="quiet">
          {counted(written.length - readings.length, 'reading', 'readings')} of an earlier hold,
          more than a day ago, {written.length - readings.length === 1 ? 'is' : 'are'} left out.
        </Paragraph>
      )}
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

/** Each reading, so that one that was written down wrong can be taken back. */
function Readings({
  readings,
  onTakeBack,
}: {
  readonly readings: readonly JobEntry[];
  readonly onTakeBack: (id: string) => void;
}) {
  const units = useUnits((u) => u.units);
  const first = Date.parse(readings[0]?.at ?? '');
  return (
    <Fold
      title={<Words size="small">{counted(readings.length, 'reading', 'readings')}</Words>}
      data-print="no"
    >
      <Box as="ol" aria-label="Readings of the gauge">
        {readings.map((one) => {
          const shown = formatQuantity(one.value ?? 0, 'pressure', units);
          const minutes = Math.round((Date.parse(one.at) - first) / 60000);
          return (
            <Box as="li" key={one.id} borderTop="1px solid" borderColor="rule">
              <Row justifyContent="space-between" gap="2">
                <Words size="small">
                  {minutes} min: {shown}
                  {one.celsius == null
                    ? ''
                    : `, coolant ${formatQuantity(one.celsius, 'temperature', units)}`}
                </Words>
                <TakeBack what={`${shown} at ${minutes} min`} onPress={() => onTakeBack(one.id)} />
              </Row>
            </Box>
          );
        })}
      </Box>
      {readings.length > 1 && (
        <Button
          look="bare"
          onClick={() => {
            for (const one of readings) onTakeBack(one.id);
          }}
        >
          Take all back and begin anew
        </Button>
      )}
    </Fold>
  );
}

const figuresOf = (found: HoldResult): Record<string, number> => ({
  leak_ml_h: found.leak_ml_h,
  low_ml_h: found.low_ml_h,
  high_ml_h: found.high_ml_h,
  smallest_ml_h: found.smallest_ml_h,
});
