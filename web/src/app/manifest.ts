/** Every place of a build; the router, the job line and the commands are made from this one list. */

import { matchPath } from 'react-router';
import type { Params, Place } from '../kit/page/place';
import { casePlace, rowsPlace } from '../views/cases/place';
import { causePlace } from '../views/cause/place';
import { comparePlace } from '../views/compare/place';
import { describePlace } from '../views/describe/place';
import { drivePlace } from '../views/drive/place';
import { fitPlace } from '../views/fit/place';
import { historyPlace } from '../views/history/place';
import { loopPlace } from '../views/loop/place';
import { sizePlace } from '../views/size/place';
import { stationPlace } from '../views/stations/place';

/** In the order of the job. */
export const places: readonly Place[] = [
  describePlace,
  loopPlace,
  sizePlace,
  drivePlace,
  fitPlace,
  causePlace,
  rowsPlace,
  casePlace,
  stationPlace,
  comparePlace,
  historyPlace,
];

/** The place that an address shows; null where there is none. */
export function placeAt(below: string): { place: Place; params: Params; title: string } | null {
  for (const place of places) {
    const match = matchPath(`/${place.path}`, `/${below}`);
    if (!match) continue;
    const title = place.title(match.params);
    return title === null ? null : { place, params: match.params, title };
  }
  return null;
}
