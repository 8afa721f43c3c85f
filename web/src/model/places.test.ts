import { expect, test } from 'vitest';
import { addressOf, placeOfBefore, whereAt } from './places';

test.each([
  ['/builds/7/as-found', '', { place: '', caseId: null }],
  [
    '/builds/7/as-found/stations/engine',
    '?case=hill',
    { place: 'stations/engine', caseId: 'hill' },
  ],
  ['/builds/7/as-found/drive/a%20drive', '', { place: 'drive/a%20drive', caseId: null }],
])('%s%s is read and written the same', (pathname, search, found) => {
  const where = whereAt(pathname, search);
  expect(where).toEqual({ id: '7', variant: 'as-found', ...found });
  expect(where && addressOf(where)).toBe(pathname + search);
});

test.each(['/', '/shelf', '/builds', '/builds/7'])('%s shows no variant', (pathname) => {
  expect(whereAt(pathname, '')).toBeNull();
});

test.each([
  ['station=air&case=hill', 'stations/air'],
  ['edit=hill&rows=1', 'cases/hill'],
  ['drive=1', 'drive'],
  ['drive=soak', 'drive/soak'],
  ['rows=1', 'cases'],
  ['size=1', 'size'],
  ['history=1', 'history'],
  ['compare=1', 'compare'],
  ['variant=x', ''],
])('an address of before with ?%s leads to %s', (query, place) => {
  expect(placeOfBefore(new URLSearchParams(query))).toBe(place);
});
