import { useQuery } from '@tanstack/react-query';
import { memo, useCallback, useEffect, useMemo, useState } from 'react';
import { Field } from '../../kit/field/Field';
import { SaveFile } from '../../kit/overlay/SaveFile';
import { Box, Button, Grid, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { driveFile } from '../../model/api/client';
import { driveQuery, eachFaultQuery } from '../../model/api/queries';
import type { DriveCourse, LegFault, Drive as Script } from '../../model/api/types';
import {
  clock,
  duplicatedDrive,
  firstDrive,
  fitting,
  freeName,
  lasts,
} from '../../model/document/drives';
import { usePlaces } from '../../model/places';
import { useOpened, useSession } from '../../model/save/context';
import { Choice } from './Choice';
import { CourseChart } from './CourseChart';
import { felt, gauge, lastOf, type Moment, momentAt, runsLow } from './course';
import { Events } from './Events';
import { Faults } from './Faults';
import { LegRows } from './LegRows';
import { MomentLoop } from './MomentLoop';
import { PlayHead } from './PlayHead';
import { Recorded } from './Recorded';

const SETTLE = 250; // ms that the hand rests before a drive is computed
const NONE: readonly LegFault['fault'][] = [];

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
  shown,
  onShow,
  onDone,
  onMoment,
}: {
  /** Id of the drive that is shown, from the address. */
  readonly shown: string;
  readonly onShow: (id: string) => void;
  readonly onDone: () => void;
  /** The moment under the play head, for the ladder; null when there is none. */
  readonly onMoment: (moment: Moment | null) => void;
}) {
  const session = useOpened();
  const build = useSession((s) => s.build);
  const asked = useSession((s) => s.asked);
  const current = useSession((s) => s.current);
  const setValue = useSession((s) => s.setValue);
  const variant = useSession((s) => s.build.variants[s.variant]);
  const opens = useSession((s) => s.evaluation?.ladder.thermostat_opens_c ?? 0);
  const possible = useSession((s) => s.evaluation?.can_break ?? NONE);
  // A build without drives is shown one; it becomes the build's own once it is touched.
  const offered = useMemo(() => firstDrive(asked), [asked]);
  const drives = build.drives?.length ? build.drives : [offered];
  const found = drives.findIndex((entry) => entry.id === shown);
  const index = Math.max(found, 0);
  const drive = drives[index] ?? offered;
  const script = useMemo(() => fitting(drive, build), [drive, build]);
  const rested = useRested(script);
  const course = useQuery(driveQuery(asked, variant?.id ?? '', rested, current));
  const broken = (rested.faults ?? []).length > 0;
  const without = useMemo(() => ({ ...rested, faults: [] }), [rested]);
  const sound = useQuery(driveQuery(asked, variant?.id ?? '', without, current && broken));

  const [trying, setTrying] = useState(false);
  const each = useQuery(eachFaultQuery(asked, variant?.id ?? '', without, current && trying));
  const put = (next: Script[]) => setValue('/drives', next);
  // From the document itself: a file is read while the hand goes on.
  const latest = () => {
    const { drives: now } = session.getState().build;
    return now?.length ? now : [offered];
  };
  const change = (next: Script) =>
    put(latest().map((entry) => (entry.id === next.id ? next : entry)));
  const follow = (id: string, recording: Script['recording']) => {
    const mine = latest().find((entry) => entry.id === id);
    if (mine) change(fitting({ ...mine, recording }, session.getState().build));
  };
  const keep = () => {
    if (!session.getState().build.drives?.length) put([script]);
  };
  const add = (same: boolean) => {
    const next = same ? duplicatedDrive(build, script) : firstDrive(build);
    put([...drives, same ? next : { ...next, name: freeName(drives) }]);
    onShow(next.id);
  };

  return (
    <Box as="section" aria-label="Drive it" paddingInline={{ base: '3', lg: '6' }} paddingBlock="3">
      <Row flexWrap="wrap" justifyContent="space-between" alignItems="flex-start">
        <Row gap="3" flexWrap="wrap">
          <Title>Drive it</Title>
          <Choice
            drives={drives}
            index={index}
            onChoose={(i) => onShow(drives[i]?.id ?? '')}
            onRename={(name) => change({ ...drive, name })}
            onAdd={add}
            onRemove={() => {
              put(drives.filter((_, i) => i !== index));
              onShow(drives[index === 0 ? 1 : index - 1]?.id ?? '');
            }}
          />
        </Row>
        <Row gap="2">
          <SaveFile
            name={`${build.name} drive.csv`}
            type="text/csv"
            disabled={!course.data}
            make={() => driveFile({ ...asked, drives: [] }, variant?.id ?? '', rested)}
          >
            Export as CSV
          </SaveFile>
          <Button onClick={onDone} title="Esc">
            Back to the loop
          </Button>
        </Row>
      </Row>
      {course.isError && (
        <Words role="alert" tone="fails" display="block">
          This cannot be driven: {course.error.message}
        </Words>
      )}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: '352px minmax(0,1fr)' }}
        columnGap="6"
        alignItems="start"
        marginTop="2"
      >
        <Box onFocusCapture={keep}>
          {!script.recording && (
            <LegRows key={script.id} drive={script} path={`/drives/${index}`} onChange={change} />
          )}
          <Recorded
            key={`${script.id} file`}
            drive={script}
            onFollow={(recording) => follow(script.id, recording)}
          />
          <Faults
            drive={script}
            length={lasts(script)}
            possible={possible}
            trying={trying}
            alone={trying ? (each.data ?? null) : null}
            onTry={() => setTrying(!trying)}
            onChange={change}
          />
          <Box marginTop="3">
            <Field path={`/drives/${index}/start_c`} />
          </Box>
        </Box>
        <Box
          order={{ base: -1, lg: 0 }}
          minWidth="0"
          minHeight="520px"
          aria-busy={course.isPlaceholderData}
          position={{ lg: 'sticky' }}
          top={{ lg: '8px' }}
          maxHeight={{ lg: 'calc(100dvh - 76px)' }}
          overflowY={{ lg: 'auto' }}
        >
          {!course.data && !course.isError && <Paragraph>Driving…</Paragraph>}
          {course.data && variant && (
            <Played
              course={course.data}
              sound={broken ? (sound.data ?? null) : null}
              opens={opens}
              atInlet={variant.thermostat?.position === 'inlet'}
              fan={variant.air?.fan?.kind !== 'none'}
              onMoment={onMoment}
            />
          )}
        </Box>
      </Grid>
    </Box>
  );
}

/** A course with its play head, and what stands under it. */
const Played = memo(function Played({
  course,
  sound,
  opens,
  atInlet,
  fan,
  onMoment,
}: {
  readonly course: DriveCourse;
  readonly sound: DriveCourse | null;
  readonly opens: number;
  readonly atInlet: boolean;
  readonly fan: boolean;
  readonly onMoment: (moment: Moment | null) => void;
}) {
  const places = usePlaces();
  const [chosen, setChosen] = useState<number | null>(null);
  const end = lastOf(course, sound);
  const at = Math.min(chosen ?? course.hottest_at_s, end);
  const moment = useMemo(() => momentAt(course, at), [course, at]);
  const jump = useCallback((time: number) => setChosen(time), []);
  useEffect(() => onMoment(moment), [moment, onMoment]);
  useEffect(() => () => onMoment(null), [onMoment]);
  return (
    <>
      <Summary course={course} sound={sound} />
      {sound && (
        <Button look="bare" paddingInline="0" onClick={() => places.to('cause')}>
          Does the car do that? Find the cause
        </Button>
      )}
      <MomentLoop
        moment={moment}
        filled={course.points.coolant_l[0] ?? 0}
        atInlet={atInlet}
        fan={fan}
      />
      <PlayHead at={at} end={end} onMove={jump}>
        <CourseChart course={course} sound={sound} opens={opens} />
      </PlayHead>
      <Now moment={moment} low={runsLow(course, at)} />
      <Events course={course} onJump={jump} />
    </>
  );
});

/** How hot it gets and when, with and without what breaks, and what to be careful of. */
const Summary = memo(function Summary({
  course,
  sound,
}: {
  readonly course: DriveCourse;
  readonly sound: DriveCourse | null;
}) {
  const over = course.time_to_limit_s;
  return (
    <>
      <Words display="block" marginBottom="1">
        Hottest{' '}
        <Words size="strong" tone={over === null ? 'ink' : 'fails'}>
          <Quantity value={course.hottest_c} kind="temperature" />
        </Words>{' '}
        at {clock(course.hottest_at_s)},{' '}
        {over === null ? (
          <>
            below the limit of <Quantity value={course.limit_c} kind="temperature" />
          </>
        ) : (
          <>
            first over the limit of <Quantity value={course.limit_c} kind="temperature" /> at{' '}
            {clock(over)}
          </>
        )}
        {course.runs_dry_s !== null && (
          <>, dry at {clock(course.runs_dry_s)}, where the drive ends</>
        )}
        {sound && (
          <>
            ; with nothing broken <Quantity value={sound.hottest_c} kind="temperature" />
          </>
        )}
        .
      </Words>
      {course.cautions.map((caution, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: cautions are told apart by their place alone
        <Words key={i} tone="fails" fontWeight="firm" display="block" marginBottom="1">
          Caution: <Sentence text={caution} />
        </Words>
      ))}
      {course.guessed.map((guess, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: told apart by their place alone
        <Words key={i} tone="quiet" display="block" marginBottom="1">
          Guessed: <Sentence text={guess} />
        </Words>
      ))}
    </>
  );
});

/** What stands under the play head, and what the driver would feel and see. */
function Now({
  moment,
  low,
}: {
  readonly moment: Moment;
  /** Whether the pump draws air. */
  readonly low: boolean;
}) {
  return (
    <Box background="sunken" borderRadius="soft" padding="3" minHeight="112px" maxWidth="620px">
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
        {moment.heaterAir !== null && (
          <>
            {' '}
            The heater blows at <Quantity value={moment.heaterAir} kind="temperature" />.
          </>
        )}
      </Words>
      <Words display="block" marginTop="1">
        <Quantity value={moment.flow} kind="coolant_flow" /> through the core of{' '}
        <Quantity value={moment.pumped} kind="coolant_flow" /> pumped,{' '}
        <Quantity value={moment.pressure} kind="pressure" /> in the system,{' '}
        {moment.toBoiling > 0 ? (
          <>
            the engine’s outlet <Quantity value={moment.toBoiling} kind="temperature_difference" />{' '}
            from boiling.
          </>
        ) : (
          'the engine’s outlet boils.'
        )}
      </Words>
      <Words display="block" marginTop="1" tone="quiet">
        A dashboard gauge would read “{gauge(moment.engineOut)}”
        {low && ', or cool if its sensor no longer stands in coolant'}.
      </Words>
    </Box>
  );
}
