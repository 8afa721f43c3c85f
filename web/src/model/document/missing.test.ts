import { expect, test } from 'vitest';
import schema from '../api/build.schema.json';
import { fieldSpec } from './fields';
import { missingValues } from './missing';
import { newBuild } from './newBuild';
import { caseFields, stationNames, stations } from './stations';

test('a new build lacks its five numbers and nothing else', () => {
  const build = newBuild('A build', 'A yard');
  expect(
    missingValues(build, 0)
      .map((problem) => problem.path)
      .sort(),
  ).toEqual([
    '/variants/0/engine/displacement_l',
    '/variants/0/engine/rated_power_kw',
    '/variants/0/radiator/depth_mm',
    '/variants/0/radiator/height_mm',
    '/variants/0/radiator/width_mm',
  ]);
  expect(missingValues(build, 0)[0]?.message).toMatch(/ is needed for an answer\. /);
});

test('a build that has them lacks nothing', () => {
  const build = structuredClone(newBuild('A build', 'A yard'));
  Object.assign(build.variants[0] ?? {}, {
    engine: { displacement_l: 2, rated_power_kw: 90 },
    radiator: { width_mm: 600, height_mm: 400, depth_mm: 30 },
  });
  expect(missingValues(build, 0)).toEqual([]);
});

test('every needed field of the schema is looked at', () => {
  const definitions = (
    schema as { $defs: Record<string, { properties?: Record<string, { needed?: boolean }> }> }
  ).$defs;
  const needed = Object.values(definitions).flatMap((d) =>
    Object.entries(d.properties ?? {}).flatMap(([name, field]) => (field.needed ? [name] : [])),
  );
  const looked = [
    ...stationNames.flatMap((name) => stations[name].groups.flatMap((g) => g.fields)),
    ...caseFields,
  ].map((field) => field.split('/').at(-1));
  expect(needed.length).toBeGreaterThan(4);
  expect(needed.filter((name) => !looked.includes(name))).toEqual([]);
  expect(fieldSpec('/variants/0/engine/displacement_l').needed).toBe(true);
});
