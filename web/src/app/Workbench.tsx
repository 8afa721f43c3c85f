import { useCallback, useEffect, useRef, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { Box, Button, Paragraph, Title, Words } from '../kit/primitives';
import { AwayError, ProblemError } from '../model/api/client';
import type { UnreadableProblem } from '../model/api/types';
import type { CaseKind } from '../model/document/kinds';
import { newCase } from '../model/document/newBuild';
import { type StationName, stations } from '../model/document/stations';
import { SessionContext, useOpened, useSession } from '../model/save/context';
import { openSession, type Session } from '../model/save/session';
import { useShownCase } from '../model/save/shownCase';
import { AddCase, Cases } from '../views/cases/Cases';
import { Rows } from '../views/cases/Rows';
import { Strip } from '../views/cases/Strip';
import { Compare } from '../views/compare/Compare';
import { useSideMarks } from '../views/compare/useSideMarks';
import { Mend } from '../views/describe/Mend';
import { Needed } from '../views/describe/Needed';
import type { Moment } from '../views/drive/course';
import { Drive } from '../views/drive/Drive';
import { History } from '../views/history/History';
import { Ladder } from '../views/ladder/Ladder';
import { Answers } from '../views/loop/Answers';
import { Band } from '../views/loop/Band';
import { Loop } from '../views/loop/Loop';
import { Side } from '../views/loop/Side';
import { Size } from '../views/size/Size';
import { CaseBench, StationBench } from '../views/stations/Bench';
import { Brand, Header } from './Header';
import { Notices } from './Notices';
import { Palette, Shortcuts, useShortcuts } from './palette/Palette';
import { UnitsDialog } from './UnitsDialog';
import { type SheetName, useCommands } from './useCommands';
import { Variants } from './Variants';
import { WhatIf } from './WhatIf';

/** The workbench of one build. */
export function Workbench() {
  const { id = '' } = useParams();
  const [session, setSession] = useState<Session | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [unreadable, setUnreadable] = useState<UnreadableProblem | null>(null);
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further attempt opens again
  useEffect(() => {
    let opened: Session | null = null;
    let gone = false;
    setFailure(null);
    setUnreadable(null);
    openSession(id).then(
      (found) => {
        if (gone) return found.getState().close();
        opened = found;
        setSession(found);
      },
      (error) => {
        if (gone) return;
        if (error instanceof ProblemError && error.problem.type === 'urn:ebbrin:unreadable')
          setUnreadable(error.problem as UnreadableProblem);
        else
          setFailure(
            error instanceof AwayError
              ? 'The server does not answer. Is it running? Start it with ./start; what you typed is kept in this browser.'
              : String(error.message),
          );
      },
    );
    return () => {
      gone = true;
      opened?.getState().close();
      setSession(null);
    };
  }, [id, attempt]);

  if (unreadable) {
    return <Mend id={id} problem={unreadable} onMended={() => setAttempt(attempt + 1)} />;
  }
  if (failure) {
    return (
      <Box as="main" padding="8">
        <Brand />
        <Title marginTop="4">This build cannot be opened</Title>
        <Paragraph marginBlock="3">{failure}</Paragraph>
        <Button look="main" onClick={() => setAttempt(attempt + 1)}>
          Try again
        </Button>
      </Box>
    );
  }
  if (!session) {
    return (
      <Box as="main" padding="8" aria-busy="true">
        <Brand />
        <Paragraph marginTop="4">Opening…</Paragraph>
      </Box>
    );
  }
  return (
    <SessionContext.Provider value={session}>
      <Opened />
    </SessionContext.Provider>
  );
}

function Opened() {
  const [search, setSearch] = useSearchParams();
  const name = useSession((s) => s.build.name);
  const evaluation = useSession((s) => s.evaluation);
  const ghost = useSession((s) => s.ghost);
  const needed = useSession((s) => s.needed);
  const cases = useSession((s) => s.build.cases);
  const variant = useSession((s) => s.build.variants[s.variant]);
  const setValue = useSession((s) => s.setValue);
  const chooseVariant = useSession((s) => s.chooseVariant);
  const variantId = variant?.id;
  const away = useSession((s) => s.serverAway);
  const shownCase = useShownCase();
  const side = useSideMarks(shownCase?.id ?? null);
  const session = useOpened();
  const [describing, setDescribing] = useState(false);
  if (needed && !evaluation && !describing) setDescribing(true);
  const station = search.get('station') as StationName | null;
  const edited = search.get('edit');
  const open = station !== null && station in stations ? station : null;

  const go = useCallback(
    (changes: Record<string, string | null>) =>
      setSearch(
        () => {
          // From the address itself: two steps in one breath must not undo each other.
          const next = new URLSearchParams(window.location.search);
          for (const [key, value] of Object.entries(changes)) {
            if (value === null) next.delete(key);
            else next.set(key, value);
          }
          return next;
        },
        { replace: 'variant' in changes },
      ),
    [setSearch],
  );
  const openStation = useCallback((to: StationName) => go({ station: to, edit: null }), [go]);
  const close = useCallback(
    () =>
      go({
        station: null,
        edit: null,
        compare: null,
        history: null,
        rows: null,
        size: null,
        drive: null,
      }),
    [go],
  );
  const show = useCallback((id: string) => go({ case: id }), [go]);

  // The variant stands in the address, so that a reload and a link show the same one.
  const wanted = useRef(search.get('variant'));
  useEffect(() => {
    if (wanted.current) chooseVariant(wanted.current);
    wanted.current = null;
  }, [chooseVariant]);
  useEffect(() => {
    if (variantId && wanted.current === null && search.get('variant') !== variantId)
      go({ variant: variantId });
  }, [variantId, search, go]);
  useEffect(() => {
    document.title = `${name} – Ebbrin`;
  }, [name]);
  const [moment, setMoment] = useState<Moment | null>(null);
  const [sheet, setSheet] = useState<SheetName | null>(null);
  // A dialog tells late that it has closed: another may be open by then.
  const closeSheet = (which: SheetName) => setSheet((shown) => (shown === which ? null : shown));
  const commands = useCommands(go, setSheet);
  useShortcuts(commands);

  // The same functions at each drawing, so that what they are handed to is drawn only when it changes.
  const addCase = useCallback(
    (kind: CaseKind) => {
      const { build, variant: index } = session.getState();
      const taken = build.cases.some((entry) => entry.name === kind.name);
      const fresh = newCase(build.cases, taken ? '' : kind.name, kind.values(build, index));
      setValue('/cases', [...build.cases, fresh]);
      go({ edit: fresh.id, station: null });
    },
    [session, setValue, go],
  );
  const removeCase = useCallback(
    (id: string) => {
      const { build } = session.getState();
      setValue(
        '/cases',
        build.cases.filter((entry) => entry.id !== id),
      );
      close();
    },
    [session, setValue, close],
  );
  const edit = useCallback(
    (id: string) => go({ edit: id, case: id, station: null, rows: null }),
    [go],
  );
  const openRows = useCallback(() => go({ rows: '1', size: null, drive: null }), [go]);
  const showSized = useCallback(
    (id: string) => {
      chooseVariant(id);
      go({ size: null });
    },
    [chooseVariant, go],
  );
  const openDrive = useCallback(
    () =>
      go({
        drive: '1',
        size: null,
        history: null,
        compare: null,
        rows: null,
        station: null,
        edit: null,
      }),
    [go],
  );
  const showDrive = useCallback((id: string) => go({ drive: id || '1' }), [go]);
  const openSize = useCallback(
    () =>
      go({
        size: '1',
        drive: null,
        history: null,
        compare: null,
        rows: null,
        station: null,
        edit: null,
      }),
    [go],
  );
  const openHistory = useCallback(
    () => go({ history: '1', size: null, drive: null, compare: null, station: null, edit: null }),
    [go],
  );
  const compare = useCallback(
    (on: boolean) =>
      go({
        compare: on ? '1' : null,
        history: null,
        size: null,
        drive: null,
        station: null,
        edit: null,
      }),
    [go],
  );

  // While it is driven, the ladder stands where the play head does.
  const driven = moment && evaluation?.cases.find((entry) => entry.id === moment.caseId);
  const editing = open !== null || edited !== null;
  const history = !editing && search.get('history') !== null;
  const comparing = !editing && !history && search.get('compare') !== null;
  const rows = !editing && !history && !comparing && search.get('rows') !== null;
  const driving =
    !editing && !history && !comparing && !rows && !needed && search.get('drive') !== null;
  const sizing =
    !driving &&
    !editing &&
    !history &&
    !comparing &&
    !rows &&
    !needed &&
    search.get('size') !== null;
  return (
    <Box
      display="grid"
      gridTemplateColumns={
        evaluation && !describing
          ? { base: 'minmax(0,1fr) 256px', lg: 'minmax(0,1fr) 284px' }
          : 'minmax(0,1fr)'
      }
      gridTemplateRows="auto auto minmax(0,1fr)"
      height="100%"
      minHeight="720px"
    >
      <Box gridColumn="1 / -1">
        <Header onHistory={openHistory} onSize={openSize} onDrive={openDrive} onSheet={setSheet} />
        <WhatIf evaluation={evaluation} />
        <Notices />
      </Box>
      <Box as="main" gridRow="3" gridColumn="1" overflowY="auto" minWidth="0">
        {evaluation && !describing && (
          <Variants evaluation={evaluation} comparing={comparing} onCompare={compare} />
        )}
        {evaluation && !describing && (
          <Answers evaluation={evaluation} brief={editing || rows || sizing || driving} />
        )}
        {evaluation && !describing && comparing && <Compare evaluation={evaluation} />}
        {history && <History onDone={close} />}
        {driving && (
          <Drive
            shown={search.get('drive') ?? ''}
            onShow={showDrive}
            onDone={close}
            onMoment={setMoment}
          />
        )}
        {sizing && <Size onDone={close} onShow={showSized} />}
        {rows && <Rows onAdd={addCase} onDone={close} onEdit={edit} />}
        {describing && !editing && <Needed onDone={() => setDescribing(false)} />}
        {!evaluation && !needed && !away && <Paragraph padding="6">Computing…</Paragraph>}
        {variant && (editing || describing || !evaluation) && (
          <Band
            evaluation={evaluation}
            variant={variant}
            shownCase={shownCase}
            open={open}
            onOpen={openStation}
          />
        )}
        {editing && evaluation && shownCase && (
          <Strip evaluation={evaluation} shownId={shownCase.id} onShow={show} />
        )}
        {open && <StationBench key={open} station={open} onClose={close} />}
        {edited && !open && (
          <CaseBench key={edited} id={edited} onClose={close} onRemove={removeCase} />
        )}
        {!editing &&
          !describing &&
          !comparing &&
          !history &&
          !rows &&
          !sizing &&
          !driving &&
          evaluation &&
          shownCase &&
          variant && (
            <>
              <Loop
                evaluation={evaluation}
                variant={variant}
                shownCase={shownCase}
                onOpen={openStation}
              />
              <Box
                display="grid"
                gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 286px' }}
                borderTop="1px solid"
                borderColor="rule"
              >
                <Cases
                  evaluation={evaluation}
                  shownId={shownCase.id}
                  onShow={show}
                  onEdit={edit}
                  onRows={openRows}
                  onAdd={addCase}
                />
                <Side evaluation={evaluation} shown={shownCase} onOpen={openStation} />
              </Box>
            </>
          )}
        {(!evaluation || describing) && !editing && (
          <Box paddingInline="6" paddingBlock="3">
            <Words size="strong">Cases: </Words>
            {cases.map((entry) => (
              <Button
                key={entry.id}
                look="bare"
                onClick={() => go({ edit: entry.id, station: null })}
              >
                {entry.name}
              </Button>
            ))}
            <AddCase onAdd={addCase} />
          </Box>
        )}
      </Box>
      {evaluation && !describing && shownCase && (
        <Box
          gridRow="3"
          gridColumn="2"
          borderLeft="1px solid"
          borderColor="rule"
          minHeight="0"
          overflow="hidden"
        >
          <Ladder
            evaluation={evaluation}
            ghost={ghost}
            shownCase={(driving && driven) || shownCase}
            side={driving && moment ? momentMarks(moment) : comparing ? side : null}
          />
        </Box>
      )}
      {sheet === 'palette' && <Palette commands={commands} onClose={() => closeSheet('palette')} />}
      {sheet === 'keys' && <Shortcuts commands={commands} onClose={() => closeSheet('keys')} />}
      {sheet === 'units' && <UnitsDialog onClose={() => closeSheet('units')} />}
    </Box>
  );
}

/** Engine and hoses at a moment of a drive, as the ladder marks them. */
function momentMarks(moment: Moment) {
  return [
    { label: 'engine', value: moment.engineOut, strong: true },
    { label: 'top', value: moment.top, strong: false },
    { label: 'bottom', value: moment.bottom, strong: false },
  ];
}
