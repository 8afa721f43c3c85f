import { expect, test } from 'vitest';
import { placeAt, places } from './manifest';

test.each([
  ['', ''],
  ['describe', 'Describe'],
  ['stations/air', 'Air: grille, fan, shroud'],
  ['cases', 'Duty cases'],
  ['cases/hill', 'Duty case'],
  ['drive', 'Drive it'],
  ['drive/soak', 'Drive it'],
  ['size', 'Size it'],
  ['history', 'History'],
])('%s is a place with a title', (below, title) => {
  expect(placeAt(below)?.title).toBe(title);
});

test.each(['stations/gearbox', 'stations/toString', 'sizes', 'drive/a/b', 'stations'])(
  '%s is none',
  (below) => {
    expect(placeAt(below)).toBeNull();
  },
);

test('keys and addresses are given once', () => {
  const keys = places.flatMap((place) => (place.command ? [place.command.keys] : []));
  expect(new Set(keys).size).toBe(keys.length);
  expect(new Set(places.map((place) => place.path)).size).toBe(places.length);
});
