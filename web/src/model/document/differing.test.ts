import { describe, expect, it } from 'vitest';
import { MULE, RecordedServer } from '../../testing/page';
import { changesOf } from '../../views/history/History';
import type { Build } from '../api/types';
import { METRIC, US } from '../units/quantities';
import { byIds, pathsThatDiffer, placeIn, titlesOf, valueInWords } from './differing';
import { valueAt, withValue } from './fields';

async function mule(): Promise<Build> {
  const answer = await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`));
  return ((await answer.json()) as { build: Build }).build;
}

const CAP = '/variants/0/cap';
const FAN = '/variants/0/air/fan';
const words = (build: Build, pointer: string, units = METRIC) =>
  valueInWords(build, pointer, valueAt(build, pointer), units);

describe('a value in words', () => {
  it('has its unit, its choice by name, and what a blank means', async () => {
    const build = await mule();
    expect(words(build, `${CAP}/pressure_kpa`)).toBe('103 kPa');
    expect(words(build, `${CAP}/pressure_kpa`, US)).toBe('14.9 psi');
    expect(words(build, '/variants/0/air/shroud')).toMatch(/^Full: |^None|^Partial/);
    expect(words(withValue(build, `${CAP}/pressure_kpa`, null), `${CAP}/pressure_kpa`)).toBe(
      'not known',
    );
    expect(words(build, '/cases/1/ambient_c')).toMatch(/°C$|^as the site$/);
    expect(words(withValue(build, '/cases/1/ambient_c', null), '/cases/1/ambient_c')).toBe(
      'as the site',
    );
  });

  it('of a field that another choice has put out of use says so', async () => {
    const build = await mule();
    expect(build.variants[0]?.air?.fan?.kind).toBe('electric');
    expect(words(build, `${FAN}/pulley_ratio`)).toBe('does not apply');
    const turned = withValue(build, `${FAN}/kind`, 'mechanical');
    expect(words(turned, `${FAN}/pulley_ratio`)).toBe('not known');
  });

  it('names what was copied from the shelf, and every point of a curve', async () => {
    const build = await mule();
    expect(words(build, `${CAP}/from_shelf`)).toBe('not from the shelf');
    const taken = withValue(build, `${CAP}/from_shelf`, { id: 'cap-90', version: 2 });
    expect(words(taken, `${CAP}/from_shelf`)).toBe('cap-90, version 2');
    const other = withValue(build, `${FAN}/curve/1/pressure_pa`, 100);
    expect(words(build, `${FAN}/curve`)).not.toBe(words(other, `${FAN}/curve`));
    expect(words(other, `${FAN}/curve`).split('; ')).toHaveLength(
      build.variants[0]?.air?.fan?.curve?.length ?? 0,
    );
  });

  it('is never the name of a type, whatever differs between any two variants of the demo', async () => {
    const build = await mule();
    const bare = withValue(withValue(build, `${FAN}/kind`, 'none'), `${CAP}/from_shelf`, {
      id: 'cap-90',
      version: 1,
    });
    const all = [...build.variants, ...bare.variants];
    for (const path of pathsThatDiffer(all))
      for (let i = 0; i < build.variants.length; i += 1)
        for (const one of [build, bare])
          expect(words(one, `/variants/${i}/${path}`)).not.toMatch(/object|undefined|NaN|^$/);
  });
});

describe('what differs', () => {
  it('is named with its part where two fields are called the same', () => {
    const found = titlesOf(
      [`${CAP}/from_shelf`, `${FAN}/from_shelf`, `${CAP}/pressure_kpa`],
      METRIC,
    );
    expect(found).toEqual(['Cap: from the shelf', 'Fan: from the shelf', 'Cap pressure']);
    expect(titlesOf([`${CAP}/from_shelf`], METRIC)).toEqual(['Cap: from the shelf']);
    // One field of two variants is called what it is called.
    expect(titlesOf([`${CAP}/pressure_kpa`, '/variants/1/cap/pressure_kpa'], METRIC)).toEqual([
      'Cap pressure',
      'Cap pressure',
    ]);
    expect(titlesOf(['/variants/0/thermostat/drop_kpa'], US)).toEqual([
      'Drop wide open at 26.4 gal/min',
    ]);
  });

  it('takes what the shelf gave as one value', async () => {
    const build = await mule();
    const one = withValue(build, `${CAP}/from_shelf`, { id: 'cap-90', version: 1 });
    const other = withValue(build, `${CAP}/from_shelf`, { id: 'cap-103', version: 3 });
    expect(pathsThatDiffer([one, other])).toEqual(['variants/0/cap/from_shelf']);
    expect(pathsThatDiffer([build, structuredClone(build)])).toEqual([]);
  });

  it('is found by id: one variant gone leaves the changes of the others', async () => {
    const build = await mule();
    const [, second, third] = build.variants;
    const now = withValue(
      { ...build, variants: [second, third].filter((v) => v !== undefined) },
      '/variants/1/cap/pressure_kpa',
      69,
    );
    const found = changesOf(build, now, METRIC);
    expect(found.map((change) => [change.title, change.was, change.is])).toEqual([
      ['As found: all of it', 'there', 'not there'],
      ['Bigger core and fans: Cap pressure', '103 kPa', '69 kPa'],
    ]);
    // The other way around it has come.
    const back = changesOf(now, build, METRIC);
    expect(back.find((change) => change.title === 'As found: all of it')).toMatchObject({
      was: 'not there',
      is: 'there',
    });
    expect(placeIn(now, `variants/${third?.id}/cap/pressure_kpa`)).toBe(
      '/variants/1/cap/pressure_kpa',
    );
  });

  it('can be told of whatever a build holds', async () => {
    const build = await mule();
    const [drive] = build.drives ?? [];
    const recording = { id: MULE, name: 'Lane', rows: 9, lasts_s: 80 };
    const other = {
      ...build,
      name: 'Other',
      workshop: 'Shed',
      notes: 'Wet.',
      standing: 'core',
      car: { ...build.car, drain: 'cock', hoses: 'bad', bleed_screws: 2, outlet_height_mm: 300 },
      drives: [
        {
          ...drive,
          start_c: 40,
          recording,
          faults: [{ fault: 'fan_off', severity: 1, from_s: 0 }],
        },
        { ...drive, id: 'second', name: 'Second' },
      ],
    } as unknown as Build;
    for (const [then, now] of [
      [build, other],
      [other, build],
    ] as const) {
      const found = changesOf(then, now, US);
      expect(found.length).toBeGreaterThan(8);
      for (const one of found)
        expect(`${one.title} ${one.was} ${one.is}`).not.toMatch(/object|undefined|NaN/);
    }
  });

  it('is nothing where cases only stand in another order', async () => {
    const build = await mule();
    const turned = { ...build, cases: [...build.cases].reverse() };
    expect(pathsThatDiffer([byIds(build), byIds(turned)])).toEqual([]);
  });
});
