import { useParams } from 'react-router';
import type { Place } from '../../kit/page/place';
import { type StationName, stations } from '../../model/document/stations';
import { usePlaces } from '../../model/places';
import { StationBench } from './Bench';

const known = (name: string | undefined): name is StationName =>
  name !== undefined && Object.hasOwn(stations, name);

function StationPage() {
  const { station } = useParams();
  const places = usePlaces();
  return known(station) ? (
    <StationBench key={station} station={station} onClose={() => places.to('')} />
  ) : null;
}

export const stationPlace: Place = {
  path: 'stations/:station',
  title: ({ station }) => (known(station) ? stations[station].title : null),
  Page: StationPage,
  frame: 'stations',
  early: true,
};
