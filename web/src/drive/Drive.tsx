import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { driveFile } from '../api/client';
import { driveQuery } from '../api/queries';
import type { DriveCourse, Script } from '../api/types';
import { Box, Button, Grid, Heading, Row, Slider, Title, Words } from '../theme/primitives';
import { Quantity } from '../units/Quantity';
import { Sentence } from '../words/Sentence';
import { saveAs } from '../workbench/buildFile';
import { useOpened, useSession } from '../workbench/context';
import { CourseChart } from './CourseChart';
import { felt, gauge, type Moment, momentAt } from './course';
import { Faults } from './Faults';
import { LegRows } from './LegRows';
import { clock, fitting, keepScript, keptScript } from './script';

const SETTLE = 250; // ms that the hand rests before a drive is computed

/** What the hand has come to rest on. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), SETTLE);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

/** The build over time: legs and faults beside the course, its events, and the moment under the play head. */
export function Drive({
  onDone,
  onMoment,
}: {
  readonly onDone: () => void;
  /** The moment under the play head, for the ladder; null when there is none. */
  readonly onMoment: (moment: Moment | null) => void;
}) {
  const id = useSession((s) => s.id);
  const session = useOpened();
  const build = useSession((s) => s.asked);
  const current = useSession((s) => s.current);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? '');
  const opens = useSession((s) => s.evaluation?.ladder.thermostat_opens_c ?? 0);
  const [kept, setKept] = useState<Script>(() => keptScript(id, session.getState().build));
  const script = useMemo(() => fitting(kept, build), [kept, build]);
  const rested = useRested(script);
  const [at, setAt] = useState<number | null>(null);
  const found = useQuery(driveQuery(build, variant, rested, current));
  const broken = (rested.faults ?? []).length > 0;
  const without = useMemo(() => ({ ...rested, faults: [] }), [rested]);
  const sound = useQuery(driveQuery(build, variant, without, current && broken));
  const course = found.data ?? null;
  const length = script.legs.reduce((sum, leg) => sum + (leg.duration_s ?? 0), 0);
  const moment = useMemo(
    () => (course ? momentAt(course.points, at ?? hottestAt(course)) : null),
    [course, at],
  );
  useEffect(() => onMoment(moment), [moment, onMoment]);
  useEffect(() => () => onMoment(null), [onMoment]);

  function change(next: Script) {
    setKept(next);
    keepScript(id, next);
  }

  return (
    <Box as="section" aria-label="Drive it" paddingInline={{ base: '3', lg: '6' }} paddingBlock="4">
      <Row justifyContent="space-between">
        <Title>Drive it</Title>
        <Row gap="2">
          <Button
            disabled={!course}
            onClick={async () =>
              saveAs(`${build.name} drive.csv`, 'text/csv', await driveFile(build, variant, rested))
            }
          >
            Export as CSV
          </Button>
          <Button onClick={onDone} title="Esc">
            Back to the loop
          </Button>
        </Row>
      </Row>
      {found.isError && (
        <Words role="alert" tone="fails" display="block">
          This cannot be driven: {found.error.message}
        </Words>
      )}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: '352px minmax(0,1fr)' }}
        columnGap="6"
        alignItems="start"
        marginTop="2"
      >
        <Box>
          <LegRows script={script} onChange={change} />
          <Faults script={script} length={length} onChange={change} />
        </Box>
        <Box minWidth="0" aria-busy={found.isPlaceholderData} minHeight="520px">
          {course && moment && (
            <>
              <CourseChart
                course={course}
                sound={broken ? (sound.data ?? null) : null}
                opens={opens}
                at={at ?? hottestAt(course)}
              />
              <Row gap="3">
                <Slider
                  type="range"
                  aria-label="Play head"
                  aria-valuetext={clock(at ?? hottestAt(course))}
                  min={0}
                  max={course.points.time_s.at(-1) ?? 0}
                  step={1}
                  value={at ?? hottestAt(course)}
                  onChange={(event) => setAt(Number(event.target.value))}
                />
                <Words size="strong" minWidth="56px">
                  {clock(at ?? hottestAt(course))}
                </Words>
              </Row>
              <Now moment={moment} />
              {course.caution && (
                <Words tone="fails" fontWeight={560} display="block" marginTop="3">
                  Caution: <Sentence text={course.caution} />
                </Words>
              )}
              <Events course={course} onJump={setAt} />
            </>
          )}
        </Box>
      </Grid>
    </Box>
  );
}

/** When it is hottest, s. */
function hottestAt(course: DriveCourse): number {
  const { time_s, top_hose_c } = course.points;
  let best = 0;
  top_hose_c.forEach((value, i) => {
    if (value > (top_hose_c[best] ?? 0)) best = i;
  });
  return time_s[best] ?? 0;
}

/** What stands under the play head, and what the driver would feel and see. */
function Now({ moment }: { readonly moment: Moment }) {
  return (
    <Box background="sunken" borderRadius="soft" padding="3" minHeight="112px">
      <Words display="block">
        Top hose{' '}
        <Words size="strong">
          <Quantity value={moment.top} kind="temperature" />
        </Words>
        , {felt(moment.top)}; bottom hose{' '}
        <Words size="strong">
          <Quantity value={moment.bottom} kind="temperature" />
        </Words>
        , {felt(moment.bottom)}.
      </Words>
      <Words display="block" marginTop="1">
        Thermostat <Quantity value={moment.lift} kind="share" /> open, fan{' '}
        {moment.stage > 0 ? 'on' : 'off'}, <Quantity value={moment.flow} kind="coolant_flow" />{' '}
        through the core, <Quantity value={moment.pressure} kind="pressure" /> in the system,{' '}
        <Quantity value={moment.toBoiling} kind="temperature_difference" /> from boiling.
      </Words>
      <Words display="block" marginTop="1" tone="quiet">
        A dashboard gauge would read “{gauge(moment.top)}”.
      </Words>
    </Box>
  );
}

function Events({
  course,
  onJump,
}: {
  readonly course: DriveCourse;
  readonly onJump: (time: number) => void;
}) {
  const [all, setAll] = useState(false);
  const shown = all ? course.events : course.events.slice(0, 12);
  return (
    <Box as="section" aria-label="What happens" marginTop="3">
      <Heading>What happens</Heading>
      <ul>
        {shown.map((event) => (
          <li key={`${event.time_s} ${event.kind}`}>
            <Button
              look="bare"
              minHeight="target"
              display="flex"
              gap="3"
              onClick={() => onJump(event.time_s)}
            >
              <span>{clock(event.time_s)}</span>
              <Words as="span" fontWeight={430}>
                <Sentence text={event.text} />
              </Words>
            </Button>
          </li>
        ))}
      </ul>
      {course.events.length > 12 && (
        <Button look="bare" onClick={() => setAll(!all)}>
          {all ? 'fewer' : `all ${course.events.length}`}
        </Button>
      )}
      {(course.coolant_in_bottle_l > 0.05 || course.coolant_on_ground_l > 0.05) && (
        <Words display="block" tone="quiet">
          At the end <Quantity value={course.coolant_in_bottle_l} kind="volume" /> of coolant are in
          the bottle, <Quantity value={course.coolant_on_ground_l} kind="volume" /> on the ground.
        </Words>
      )}
    </Box>
  );
}
