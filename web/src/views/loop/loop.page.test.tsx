import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const build = `/builds/${MULE}`;

const judged = recorded['POST /evaluate?variant=as-found&levers=false'];
/** The recorded server with parts of the first variant, and its worst case, otherwise. */
function otherwise(parts: object, worst: object = {}): RecordedServer {
  const stored = recorded[`GET /builds/${MULE}`];
  const [first, ...others] = stored.build.variants;
  const [case_, ...cases] = judged.cases;
  return new RecordedServer({
    [`GET /builds/${MULE}`]: {
      ...stored,
      build: { ...stored.build, variants: [{ ...first, ...parts }, ...others] },
    },
    'POST /evaluate?variant=as-found&levers=false': {
      ...judged,
      cases: [{ ...case_, ...worst }, ...cases],
    },
  });
}
const air = recorded[`GET /builds/${MULE}`].build.variants[0]?.air;
const fan = (more: object) => ({ air: { ...air, fan: { ...air?.fan, ...more } } });

describe('the loop says what the car has', () => {
  const loop = async (server: RecordedServer) => {
    const { screen } = await opened(`${build}/as-found`, server);
    return screen.findByRole('region', { name: /^Coolant loop/ });
  };
  const discs = (drawn: HTMLElement) => drawn.querySelectorAll('circle').length;

  it.each([
    [{ kind: 'water' }, 'water'],
    [{ kind: 'waterless', glycol_vol_share: null }, 'waterless glycol'],
    [{ kind: 'propylene_glycol', glycol_vol_share: 0.4 }, '40 % glycol'],
  ])('is filled with %j', async (coolant, words) => {
    expect(said(await loop(otherwise({ coolant })))).toContain(`${words}▸ coolant`);
  });

  it.each([
    [{ kind: 'electric', fans: 'two' }, 'electric fans, full shroud', 2],
    [{ kind: 'electric', fans: 'one', staging: 'single' }, 'electric fan, full shroud', 1],
    // One that the engine drives is alone, whatever was written before it was.
    [{ kind: 'mechanical', fans: 'two' }, 'engine fan, full shroud', 1],
    [{ kind: 'none', fans: 'two' }, 'no fan', 0],
  ])('is cooled by %j', async (kind, words, count) => {
    const drawn = await loop(otherwise(fan(kind)));
    expect(said(drawn)).toContain(words);
    expect(discs(drawn)).toBe(count);
    expect(said(drawn).includes('▸ fan')).toBe(count > 0);
  });

  it('comes to no rest but to no more than its hottest either', async () => {
    const hunt = { coldest_c: 91, hottest_c: 104 };
    const server = otherwise(
      {},
      { top_hose_c: null, bottom_hose_c: null, timed: null, control: 'hunts', hunt },
    );
    const { screen } = await opened(`${build}/as-found/compare?case=pass`, server);
    const side = await screen.findByRole('region', { name: 'Variants side by side' });
    await waitFor(() => expect(said(side)).toContain('up to 104 °C'));
    const ladder = screen.getByRole('region', { name: 'Ladder of temperatures' });
    expect(said(ladder)).toContain('As ≤104');
    cleanup();
    const drawn = await loop(server);
    expect(said(drawn)).toContain('104 °Ctop hose →, at its hottest');
    expect(said(drawn)).toContain('comes to no rest');
    expect(said(document.body)).not.toContain('never settles');
  });
});

describe('a build that is opened', () => {
  it('leads to its first variant and says its verdict four times', async () => {
    const { screen } = await opened(build);
    const answers = await screen.findByRole('region', { name: 'Four answers' });
    expect(location.pathname).toBe(`${build}/as-found`);
    expect(said(answers)).toContain('650 × 400 × 30 mm');
    expect(said(answers)).toContain('holds 2 of 4 cases');
    expect(said(answers)).toContain('short in The pass, 2200 m');
    await waitFor(() => expect(document.title).toBe('Mule – Ebbrin'));
  });

  it('lists its cases, the worst first, and shows the one that is pressed', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    const cases = await screen.findByRole('region', { name: 'Duty cases' });
    const names = within(cases).getAllByRole('button', { name: /in the loop$/ });
    expect(names.map((e) => e.getAttribute('aria-label'))).toEqual([
      'Show The pass, 2200 m in the loop',
      'Show Motorway with trailer in the loop',
      'Show Ferry queue, air con on in the loop',
      'Show Cold morning, heater on in the loop',
    ]);
    await user.click(within(cases).getByText('Motorway with trailer'));
    expect(location.search).toBe('?case=motorway');
    expect(screen.getByRole('region', { name: /^Coolant loop in Motorway/ })).toBeDefined();
  });

  it('has a row of figures for each case, in words of the table', async () => {
    const { screen } = await opened(`${build}/as-found`);
    const cases = await screen.findByRole('region', { name: 'Duty cases' });
    const cell = within(cases)
      .getAllByRole('cell')
      .find((e) => e.dataset.label === 'heat kW');
    expect(said(cell)).toBe('48.8');
    const columns = within(cases).getAllByRole('columnheader');
    expect(columns.map(said)).toContain('heat kW');
  });

  it('comes in the units that are chosen', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    const answers = await screen.findByRole('region', { name: 'Four answers' });
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(said(answers)).toContain('25.6 × 15.7 × 1.2 in');
    expect(said(answers)).toContain('180 °F');
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
    expect(said(answers)).toContain('82 °C');
  });

  it('says so where it is not there, or the variant is not', async () => {
    const gone = {
      [`GET /builds/${MULE}`]: new Refusal(404, 'There is no such build.'),
    };
    const first = await opened(build, new RecordedServer(gone));
    expect(await first.screen.findByText(/There is no such build/)).toBeDefined();
    cleanup();
    const second = await opened(`${build}/nowhere`);
    expect(await second.screen.findByText(/has no variant “nowhere”/)).toBeDefined();
  });

  it('is asked for levers once the answer stands, and lists them by what they bring', async () => {
    const { screen, server } = await opened(`${build}/as-found`);
    const help = await screen.findByRole('region', { name: 'What would help' });
    await within(help).findAllByRole('button', { name: /try/i });
    const asked = server.asked.map((one) => one.what);
    expect(asked.indexOf('POST /evaluate?variant=as-found&levers=false')).toBeLessThan(
      asked.indexOf('POST /evaluate?variant=as-found&levers=true'),
    );
  });
});
