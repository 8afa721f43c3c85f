import { chakra } from '@chakra-ui/react';
import { memo, useEffect, useRef } from 'react';
import { Link, useLocation } from 'react-router';
import { addressIn, type Place } from '../kit/page/place';
import { Box, Words } from '../kit/primitives';
import { addressOf, whereAt } from '../model/places';
import { loopPlace } from '../views/loop/place';
import { placeAt, places } from './manifest';

const Stop = chakra(Link, {
  base: {
    flex: { base: '1 0 auto', md: '0 1 auto' },
    minWidth: { base: '84px', md: '120px' },
    minHeight: '48px',
    paddingInline: '3',
    paddingBlock: '1',
    color: 'ink',
    textDecoration: 'none',
    display: 'flex',
    flexDirection: 'column',
    justifyContent: 'center',
    borderTop: '3px solid transparent',
    _hover: { background: 'accentSoft' },
    '&[aria-current=page]': { borderTopColor: 'accent', background: 'raised' },
  },
});

const stops = places.filter((place) => place.job);

/** The job in its order: where one is, and what waits at each place. On a phone it lies at the bottom. */
export const JobLine = memo(function JobLine() {
  const { pathname, search } = useLocation();
  const strip = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the stop that one is at comes into sight
  useEffect(() => {
    const here = strip.current?.querySelector<HTMLElement>('[aria-current=page]');
    if (here && strip.current) strip.current.scrollLeft = here.offsetLeft - 40;
  }, [pathname]);
  const now = whereAt(pathname, search);
  if (!now) return null;
  // Cases, stations and comparisons belong to the judging.
  const here = placeAt(now.place)?.place;
  const current = here?.job ? here : loopPlace;
  return (
    <Box
      as="nav"
      ref={strip}
      aria-label="The job"
      display="flex"
      gap={{ base: '0', md: '2' }}
      overflowX="auto"
      paddingInline={{ base: '0', lg: '4' }}
      background="ground"
      borderTop={{ base: '1px solid', md: 'none' }}
      borderBottom={{ md: '1px solid' }}
      borderColor={{ base: 'rule', md: 'rule' }}
      data-print="no"
    >
      {stops.map((place) => (
        <JobStop
          key={place.path}
          place={place}
          current={place === current}
          to={addressOf({ ...now, place: addressIn(place) })}
        />
      ))}
    </Box>
  );
});

function JobStop({
  place,
  to,
  current,
}: {
  readonly place: Place;
  readonly to: string;
  readonly current: boolean;
}) {
  const waiting = place.job?.useWaiting() ?? '';
  return (
    <Stop to={to} aria-current={current ? 'page' : undefined} title={place.command?.keys}>
      <Words size="body" fontWeight="strong">
        {place.job?.word}
      </Words>
      <Words size="small" tone="quiet" whiteSpace="nowrap">
        {waiting}
      </Words>
    </Stop>
  );
}
