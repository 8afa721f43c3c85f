import { Suspense, useDeferredValue, useEffect, useRef, useState } from 'react';
import { Navigate, Outlet, useLocation, useParams } from 'react-router';
import { ErrorBoundary } from '../kit/page/ErrorBoundary';
import { SkipLink } from '../kit/page/SkipLink';
import { usePhone } from '../kit/page/usePhone';
import { Box, Paragraph } from '../kit/primitives';
import type { StationName } from '../model/document/stations';
import { addressOf, usePlaces, whereAt } from '../model/places';
import { useSession } from '../model/save/context';
import { useShownCase } from '../model/save/shownCase';
import { Strip } from '../views/cases/Strip';
import { LadderBand } from '../views/ladder/LadderBand';
import { Answers } from '../views/loop/Answers';
import { Band } from '../views/loop/Band';
import { useOpenStation } from '../views/loop/useOpenStation';
import { Announced } from './Announced';
import { Header } from './Header';
import { JobLine } from './JobLine';
import { LadderHere } from './LadderHere';
import { placeAt } from './manifest';
import { Notices } from './Notices';
import { Palette } from './palette/Palette';
import { Shortcuts } from './palette/Shortcuts';
import { useShortcuts } from './palette/useShortcuts';
import { UnitsDialog } from './UnitsDialog';
import { Unknown } from './Unknown';
import { type SheetName, useCommands } from './useCommands';
import { useScroll } from './useScroll';
import { Variants } from './Variants';
import { WhatIf } from './WhatIf';
import { WordsDialog } from './WordsDialog';

/** Keeps the session at the variant that the address names. True where the build has no such variant. */
function useVariantOfAddress(): boolean {
  const { variant: wanted = '' } = useParams();
  const places = usePlaces();
  const variants = useSession((s) => s.build.variants);
  const known = variants.some((entry) => entry.id === wanted);
  const shown = useSession((s) => s.build.variants[s.variant]?.id);
  const choose = useSession((s) => s.chooseVariant);
  // All that were there: one may be undone before its address is drawn.
  const seen = useRef(new Set<string>());
  for (const { id } of variants) seen.current.add(id);
  const removed = !known && seen.current.has(wanted);
  useEffect(() => {
    if (known) choose(wanted);
    else if (removed && shown) places.showVariant(shown, undefined, true);
  }, [known, removed, wanted, shown, choose, places]);
  return !known && !removed;
}

/** One variant of a build: what always stands there, and the place of the address within. */
export function OpenedBuild() {
  const { pathname, search } = useLocation();
  const phone = usePhone();
  const unknownVariant = useVariantOfAddress();
  const now = whereAt(pathname, search);
  const here = now ? placeAt(now.place) : null;
  const name = useSession((s) => s.build.name);
  const evaluation = useSession((s) => s.evaluation);
  const needed = useSession((s) => s.needed);
  const away = useSession((s) => s.serverAway);
  const variant = useSession((s) => s.build.variants[s.variant]);
  const shownCase = useShownCase();
  const places = usePlaces();
  const openStation = useOpenStation();
  const [sheet, setSheet] = useState<SheetName | null>(null);
  // The answers are drawn first, and what takes longer in the next go.
  const later = useDeferredValue(true, false);
  // A dialog tells late that it has closed: another may be open by then.
  const closeSheet = (which: SheetName) => setSheet((shown) => (shown === which ? null : shown));
  const [refused, setRefused] = useState<string | null>(null);
  const commands = useCommands(setSheet, setRefused);
  useShortcuts(commands);
  useScroll(`${now?.id}/${now?.place}`);
  const title = here?.title;
  useEffect(() => {
    document.title = [title, name, 'Ebbrin'].filter(Boolean).join(' – ');
  }, [title, name]);

  if (!now) return null;
  if (unknownVariant || !here) {
    const home = addressOf({ ...now, variant: variant?.id ?? '', place: '' });
    const what = unknownVariant
      ? `${name} has no variant “${now.variant}”; it may have been removed or renamed.`
      : `${name} has no place “${now.place}”.`;
    return (
      <Box as="main">
        <Unknown what={what} to={home} way={`Go to ${name}`} />
      </Box>
    );
  }
  const { place } = here;
  const describing = place.path === 'describe' && !evaluation;
  // Before anything can be answered there is only describing.
  if (needed && !evaluation && !place.early)
    return <Navigate replace to={addressOf({ ...now, place: 'describe' })} />;
  const alone = place.frame === 'alone';
  const answered = evaluation && !describing && !alone ? evaluation : null;
  return (
    <Box
      display={{ base: 'flex', md: 'grid' }}
      flexDirection="column"
      gridTemplateColumns={
        answered
          ? { md: 'minmax(0,1fr) 256px', lg: 'minmax(0,1fr) 284px' }
          : { md: 'minmax(0,1fr)' }
      }
      gridTemplateRows={{ md: 'auto minmax(0,1fr)' }}
      height={{ base: 'auto', md: '100%' }}
      minHeight={{ base: '100%', md: '720px' }}
      _print={{ display: 'block', height: 'auto' }}
    >
      <SkipLink at={pathname} />
      <Box gridColumn="1 / -1">
        <Header onSheet={setSheet} onHistory={() => places.to('history')} />
        {!phone && <JobLine />}
        <WhatIf evaluation={evaluation} />
        <Notices refused={refused} onSeen={() => setRefused(null)} />
      </Box>
      <Box
        as="main"
        id="main"
        tabIndex={-1}
        aria-busy={!later}
        outline="none"
        gridRow="2"
        gridColumn="1"
        flex={{ base: '1', md: 'initial' }}
        overflowY={{ md: 'auto' }}
        minWidth="0"
        _print={{ overflow: 'visible' }}
      >
        {answered && <Variants evaluation={answered} comparing={place.path === 'compare'} />}
        {answered && phone && shownCase && (
          <LadderBand evaluation={answered} shownCase={shownCase}>
            <LadderHere place={place} />
          </LadderBand>
        )}
        {answered && <Answers evaluation={answered} brief={place.frame !== 'full'} />}
        {!evaluation && !needed && !away && !alone && <Paragraph padding="6">Computing…</Paragraph>}
        {later && variant && !alone && (place.frame === 'stations' || !answered) && (
          <Band
            evaluation={evaluation}
            variant={variant}
            shownCase={shownCase}
            open={(here.params.station as StationName | undefined) ?? null}
            onOpen={openStation}
          />
        )}
        {later && answered && place.frame === 'stations' && shownCase && (
          <Strip evaluation={answered} shownId={shownCase.id} onShow={places.showCase} />
        )}
        {later && (answered || place.early) && (
          <ErrorBoundary at={pathname}>
            <Suspense fallback={<Paragraph padding="6">Loading…</Paragraph>}>
              <Outlet />
            </Suspense>
          </ErrorBoundary>
        )}
      </Box>
      {answered && !phone && (
        <Box
          gridRow="2"
          gridColumn="2"
          borderLeft="1px solid"
          borderColor="rule"
          minHeight="0"
          overflow="hidden"
          _print={{ border: 'none', maxWidth: '284px', breakInside: 'avoid' }}
        >
          {later && <LadderHere place={place} />}
        </Box>
      )}
      {phone && (
        <Box position="sticky" bottom="0" zIndex="strip">
          <JobLine />
        </Box>
      )}
      <Announced />
      {sheet === 'palette' && <Palette commands={commands} onClose={() => closeSheet('palette')} />}
      {sheet === 'keys' && <Shortcuts commands={commands} onClose={() => closeSheet('keys')} />}
      {sheet === 'words' && <WordsDialog onClose={() => closeSheet('words')} />}
      {sheet === 'units' && <UnitsDialog onClose={() => closeSheet('units')} />}
    </Box>
  );
}
