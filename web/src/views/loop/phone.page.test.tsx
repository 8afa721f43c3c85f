import { cleanup } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, said } from '../../testing/page';

const narrow = { matches: true, addEventListener() {}, removeEventListener() {} };
beforeEach(() => vi.stubGlobal('matchMedia', () => narrow));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const judge = 'POST /evaluate?variant=as-found&levers=false';
const timed = { duration_s: 900, start_c: 85, end_c: 101, time_to_limit_s: null, beyond: false };
const hunt = { coldest_c: 91, hottest_c: 104 };

/** The loop of a phone in its worst case, with that otherwise, and the band above it. */
async function stack(worst: object) {
  const judged = recorded[judge];
  const [first, ...others] = judged.cases;
  const answer = { ...judged, cases: [{ ...first, ...worst }, ...others] };
  const server = new RecordedServer({ [judge]: answer });
  const { screen } = await opened(`/builds/${MULE}/as-found`, server);
  const loop = await screen.findByRole('region', { name: /^Coolant loop/ });
  return { loop: said(loop), band: screen.getByRole('button', { name: /^Ladder/ }) };
}

it('tells a timed case by its end, and says of the loop that it would go on', async () => {
  const { loop, band } = await stack({ timed, top_hose_c: 112, hunt: null });
  expect(band.getAttribute('aria-label')).toMatch(/top hose 101,/);
  expect(loop).toMatch(/Top hose and cap112 °Cif it went on; cap 103 kPa/);
});

it('tells one that comes to no rest by its hottest', async () => {
  const { loop, band } = await stack({ timed: null, top_hose_c: null, bottom_hose_c: null, hunt });
  expect(band.getAttribute('aria-label')).toMatch(/top hose up to 104,/);
  expect(loop).toMatch(/Top hose and cap104 °Cat its hottest; cap 103 kPa/);
  expect(loop).toContain('Bottom hose and pumpcomes to no rest');
  expect(said(document.body)).not.toContain('never settles');
});

it('says so where there is no end to it', async () => {
  const { loop, band } = await stack({
    timed: null,
    top_hose_c: null,
    bottom_hose_c: null,
    hunt: null,
  });
  expect(band.getAttribute('aria-label')).toMatch(/top hose never settles/);
  expect(loop).toContain('Top hose and capnever settles');
});
