import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { type StationName, stations } from '../../model/document/stations';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

const radiator = `/builds/${MULE}/as-found/stations/radiator`;
type Saved = { variants: { radiator: Record<string, number> }[]; name: string };
const savedTo = (server: RecordedServer) => server.sent(`PUT /builds/${MULE}`) as Saved[];

describe('a car without a fan', () => {
  const stored = recorded[`GET /builds/${MULE}`];
  const [first, ...others] = stored.build.variants;
  const bare = {
    ...first,
    air: { ...first?.air, fan: { ...first?.air.fan, kind: 'none', fans: 'one' } },
  };
  const server = () =>
    new RecordedServer({
      [`GET /builds/${MULE}`]: {
        ...stored,
        build: { ...stored.build, variants: [bare, ...others] },
      },
    });

  it.each(['radiator', 'air', 'flow', 'thermostat'])('has none at work at its %s', async (name) => {
    const at = `/builds/${MULE}/as-found/stations/${name}?case=pass`;
    const fanned = await opened(at);
    const words = async () => {
      const view = await screen.findByRole('region', { name: stations[name as StationName].title });
      await waitFor(() => expect(said(view)).toContain('In The pass'));
      await waitFor(() => expect(view.querySelector('[aria-busy=true]')).toBeNull());
      return said(view).replace(/Fan(s| switches)? that were weighed.*/, '');
    };
    const { screen } = fanned;
    await waitFor(async () => expect(await words()).toMatch(/[Ww]ith the fan on|, fan on \d/));
    cleanup();
    await opened(at, server());
    expect(await words()).not.toMatch(/[Ww]ith the fan on|, fan on \d|fan serves/);
  });
});

describe('a field of the document', () => {
  it('takes any unit that fits, and what it comes to is judged and saved', async () => {
    const { screen, user, server } = await opened(radiator, new RecordedServer(saving()));
    const width = (await screen.findByLabelText('Core width')) as HTMLInputElement;
    expect(width.value).toBe('650');
    await user.clear(width);
    await user.type(width, '26 in');
    await waitFor(() =>
      expect(savedTo(server).at(-1)?.variants[0]?.radiator.width_mm).toBeCloseTo(660.4, 6),
    );
    const judged = server.sent('POST /evaluate?variant=as-found&levers=false') as Saved[];
    expect(judged.at(-1)?.variants[0]?.radiator.width_mm).toBeCloseTo(660.4, 6);
    // Left alone it is written as the field's own unit has it.
    await user.tab();
    expect(width.value).toBe('660.4');
  });

  it('keeps what it cannot read, says why, and asks nobody', async () => {
    const { screen, user, server } = await opened(radiator, new RecordedServer(saving()));
    const width = (await screen.findByLabelText('Core width')) as HTMLInputElement;
    await user.clear(width);
    await user.type(width, 'wide');
    expect(screen.getByRole('alert').textContent).toContain('“wide” is not a number');
    await user.tab();
    expect(width.value).toBe('wide');
    expect(width.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText(/1 field cannot be read yet/)).toBeDefined();
    await user.clear(width);
    await user.type(width, '12');
    expect(screen.getByRole('alert').textContent).toContain('must lie within 100 to 2000 mm');
    // Emptied it may have been saved meanwhile; what was typed never is.
    for (const saved of savedTo(server)) expect(saved.variants[0]?.radiator.width_mm).toBeNull();
  });

  it('goes back and forth by undo and redo', async () => {
    const { screen, user, server } = await opened(radiator, new RecordedServer(saving()));
    const depth = (await screen.findByLabelText('Core depth')) as HTMLInputElement;
    await user.clear(depth);
    await user.type(depth, '44');
    await user.tab();
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(depth.value).toBe('30');
    await user.click(screen.getByRole('button', { name: 'Redo' }));
    expect(depth.value).toBe('44');
    await waitFor(() => expect(savedTo(server).at(-1)?.variants[0]?.radiator.depth_mm).toBe(44));
  });

  it('says what the server says of it', async () => {
    const refused = new Refusal(422, '1 value of the build cannot be used.', {
      errors: [{ path: '/variants/0/radiator/depth_mm', message: 'Deeper than any fin.' }],
    });
    const server = new RecordedServer({
      ...saving(),
      'POST /evaluate?variant=as-found&levers=false': refused,
    });
    const { screen } = await opened(radiator, server);
    expect(said(await screen.findByRole('alert'))).toContain('Deeper than any fin.');
  });

  it('says in words what boils, never how far below nothing', async () => {
    const judged = recorded['POST /evaluate?variant=as-found&levers=false'];
    const hot = (inlet: number, boiling: number) => ({
      ...judged,
      cases: judged.cases.map((one) => ({
        ...one,
        pump_inlet_margin_kpa: inlet,
        pump_inlet_margin_without_cap_kpa: inlet - 50,
        boiling_margin_k: boiling,
        boiling_margin_without_cap_k: boiling - 20,
        cavitation_rpm: Math.max(0, 30 * inlet),
      })),
    });
    for (const [inlet, boiling, flow, cap] of [
      [-12, -3, 'The coolant boils at the pump inlet.', 'It boils. Over all cases'],
      [40, 9, '40 kPa clear of boiling, and boils with no', '9 K left to boiling, and it boils if'],
      [80, 32, 'boiling, 30 kPa with no pressure.', '32 K left to boiling, 12 K if the cap fails.'],
    ] as const) {
      for (const [station, words] of [
        ['flow', flow],
        ['cap', cap],
      ]) {
        const server = new RecordedServer({
          'POST /evaluate?variant=as-found&levers=false': hot(inlet, boiling),
        });
        const { screen } = await opened(`/builds/${MULE}/as-found/stations/${station}`, server);
        const told = await screen.findByText(/In the tubes|Over all cases/);
        expect(said(told)).toContain(words);
        expect(said(told)).not.toMatch(/[−-]\d/);
        cleanup();
      }
    }
  });

  it('draws what its station is about', async () => {
    const { screen } = await opened(radiator);
    expect(await screen.findByText(/650 mm × 400 mm, from the front/)).toBeDefined();
    expect(await screen.findByRole('region', { name: 'What its condition costs' })).toBeDefined();
    expect(screen.getAllByRole('slider').length).toBeGreaterThan(1);
  });

  it.each([
    ['engine', 'Displacement'],
    ['coolant', 'Coolant'],
    ['air', 'Shroud'],
    ['flow', 'Pump drive'],
    ['thermostat', 'Starts to open'],
    ['cap', 'Cap pressure'],
  ])('stands at its station: %s', async (station, label) => {
    const { screen } = await opened(`/builds/${MULE}/as-found/stations/${station}`);
    const back = await screen.findByRole('button', { name: 'Back to the loop' });
    expect(screen.queryAllByLabelText(new RegExp(label, 'i')).length).toBeGreaterThan(0);
    expect(back).toBeDefined();
  });
});
