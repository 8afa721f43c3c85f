import { act, cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { useCases } from '../../model/cases/kept';
import { useChosenCase } from '../../model/cases/shown';
import { useUnits } from '../../model/units/store';
import recorded from '../../testing/answers.json';
import { JOB, MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const at = (part: string) => `/builds/${MULE}/core-fans/fit/${part}`;

describe('what is read off an instrument', () => {
  it('is a cap on a tester, judged against its mark as one types', async () => {
    const server = new RecordedServer({
      'POST /fit/cap': (body: unknown) => {
        const { mark_kpa, lifts_kpa } = body as { mark_kpa: number; lifts_kpa: number };
        const weak = lifts_kpa < 0.9 * mark_kpa;
        return {
          verdict: weak ? 'fail' : 'pass',
          lead: [weak ? 'It lets go too early.' : 'It holds.'],
          evidence: {},
        };
      },
    });
    const { screen, user } = await opened(at('prove'), server);
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    expect(said(cap)).toContain('its mark is 103 kPa');
    const lifts = within(cap).getByLabelText('Lets go at');
    await user.type(lifts, '10 psi');
    expect(await within(cap).findByText('It lets go too early.')).toBeDefined();
    await user.clear(lifts);
    await user.type(lifts, '105');
    expect(await within(cap).findByText('It holds.')).toBeDefined();
    expect(within(cap).getByRole('button', { name: /Keep it as a proof/ })).toBeDefined();
  });

  it('is refused at once where it cannot be, and says why', async () => {
    let asked = 0;
    const server = new RecordedServer({
      'POST /fit/cap': () => {
        asked += 1;
        return new Refusal(422, 'It cannot keep more than it lets go at.');
      },
    });
    const { screen, user } = await opened(at('prove'), server);
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    await user.click(within(cap).getByLabelText('Lets go at'));
    await user.paste('100');
    expect((await within(cap).findByRole('alert')).textContent).toContain('cannot keep more');
    expect(asked).toBe(1);
  });

  it('says what lies out of range in the unit that is read, and does not ask with it', async () => {
    const server = new RecordedServer({ 'POST /fit/cap': () => new Refusal(500, 'asked') });
    const { screen, user } = await opened(at('prove'), server);
    act(() => useUnits.getState().choose('us'));
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    await user.click(within(cap).getByLabelText('Lets go at'));
    await user.paste('90');
    expect(said(await within(cap).findByRole('alert'))).toBe(
      'Lets go at must lie within 0 to 58.015 psi.',
    );
    expect(server.sent('POST /fit/cap')).toEqual([]);
  });

  it('is kept as a leak, as much as it may be, or what no leak explains', async () => {
    const job = recorded[`GET /builds/${MULE}/jobs`][0];
    const [first] = job?.entries ?? [];
    const proof = (n: number, leak_ml_h: number, low_ml_h: number, high_ml_h: number) => ({
      ...first,
      id: `00000000-0000-4000-8000-00000000000${n}`,
      seq: 100 + n,
      at: `2026-03-0${n}T10:00:00Z`,
      kind: 'proof',
      step: null,
      proof: 'hold',
      verdict: 'doubt',
      figures: { leak_ml_h, low_ml_h, high_ml_h, smallest_ml_h: 2 },
    });
    const proofs = [proof(1, 60, 40, 80), proof(2, -3, -9, 4), proof(3, -50, -80, -20)];
    const server = new RecordedServer({
      [`GET /builds/${MULE}/jobs`]: [{ ...job, entries: [...(job?.entries ?? []), ...proofs] }],
    });
    const { screen } = await opened(at('prove'), server);
    await screen.findAllByText(/the pressure rose/);
    const page = said(document.querySelector('main'));
    expect(page).toContain('60.0 mL/h');
    expect(page).toContain('up to 4.0 mL/h, before 60.0 mL/h');
    expect(page).not.toMatch(/[−-]\d+\.\d mL/);
  });

  it('is a figure that cannot be read, which is said and stays', async () => {
    const { screen, user, server } = await opened(at('prove'));
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    const lifts = within(cap).getByLabelText('Lets go at') as HTMLInputElement;
    await user.type(lifts, 'a lot');
    expect(within(cap).getByRole('alert').textContent).toContain('is not a number');
    expect(lifts.value).toBe('a lot');
    expect(server.sent('POST /fit/cap')).toEqual([]);
    // Nor is it judged by one figure as if the other had not been typed.
    await user.clear(lifts);
    await user.type(lifts, '105');
    await user.type(within(cap).getByLabelText('Left after a minute'), 'some');
    const asked = server.sent('POST /fit/cap') as { after_minute_kpa: number | null }[];
    await user.clear(lifts);
    await user.type(lifts, '104');
    expect(asked.every((one) => one.after_minute_kpa === null)).toBe(true);
    expect(server.sent('POST /fit/cap')).toHaveLength(asked.length);
    expect(within(cap).queryByRole('button', { name: /Keep it as a proof/ })).toBeNull();
  });

  it('is a reading of the gauge with the temperature that it was taken with, and no other', async () => {
    const entries: { value?: number; celsius?: number }[] = [];
    const keeps = (body: unknown) => {
      entries.push(...(body as { entries: { value: number; celsius?: number }[] }).entries);
      return {
        id: JOB,
        build_id: MULE,
        created_at: '2026-05-14T08:00:00Z',
        number: 60,
        entries: [],
      };
    };
    const server = new RecordedServer({ [`POST /jobs/${JOB}/entries`]: keeps });
    const { screen, user } = await opened(at('prove'), server);
    const hold = within(await screen.findByRole('region', { name: 'Pressure hold' }));
    const write = hold.getByRole('button', { name: 'Write it down' }) as HTMLButtonElement;
    const warm = hold.getByLabelText('Coolant now') as HTMLInputElement;
    await user.type(hold.getByLabelText('Gauge now'), '100');
    await user.type(warm, 'lukewarm');
    expect(write.disabled).toBe(true);
    await user.clear(warm);
    await user.type(warm, '68 °F');
    await user.click(write);
    expect(warm.value).toBe('');
    await user.type(hold.getByLabelText('Gauge now'), '14 psi');
    await user.click(write);
    await waitFor(() => expect(entries).toHaveLength(2));
    expect(entries[0]?.value).toBe(100);
    expect(entries[0]?.celsius).toBeCloseTo(20, 6);
    expect(entries[1]?.value).toBeCloseTo(96.53, 2);
    expect(entries[1]?.celsius ?? null).toBeNull();
  });
});

describe('what to pour', () => {
  it('is asked anew with each figure, in the units of the document', async () => {
    const { screen, user, server } = await opened(at('mix'));
    const all = await screen.findByLabelText('All coolant');
    await screen.findByText(/it comes to/);
    await user.clear(all);
    await user.type(all, '2 gal');
    const last = () => server.sent('POST /fit/mix').at(-1) as { volume_l: number };
    await expect.poll(() => last().volume_l, { timeout: 20_000 }).toBeCloseTo(7.571, 3);
    const years = await screen.findByRole('region', { name: 'Ten years of coolant' });
    expect(within(years).getAllByRole('listitem').length).toBeGreaterThan(1);
  });

  it('begins with what is in the car, and minds the coldest case', async () => {
    const { build } = recorded[`GET /builds/${MULE}`];
    const frost = ['It freezes at −8 °C, above the coldest air, −12 °C: take 25 % or more.'];
    const mixed = { ...recorded['POST /fit/mix'], frost };
    const plan = { ...recorded['POST /fit/plan'], against: [] };
    const { screen, server } = await opened(
      at('mix'),
      new RecordedServer({ 'POST /fit/mix': mixed, 'POST /fit/plan': plan }),
    );
    expect(said(await screen.findByText('Mind:').then((mark) => mark.parentElement))).toBe(
      `Mind: ${frost[0]}`,
    );
    const asked = server.sent('POST /fit/mix').at(-1) as { now_share: number; coldest_c: number };
    const standing = build.variants.find((one) => one.id === build.standing);
    expect(asked.now_share).toBe(standing?.coolant.glycol_vol_share);
    expect(asked.coldest_c).toBe(-12);
  });

  it('is not said of a figure that cannot be read', async () => {
    const { screen, user, server } = await opened(at('mix'));
    await screen.findByText(/it comes to/);
    const before = server.sent('POST /fit/mix').length;
    await user.type(screen.getByLabelText('Drained'), 'half of it');
    expect(screen.queryByText(/it comes to/)).toBeNull();
    expect(server.sent('POST /fit/mix')).toHaveLength(before);
    await user.clear(screen.getByLabelText('Drained'));
    expect(await screen.findByText(/it comes to/)).toBeDefined();
  });

  it('follows the variant where nothing was typed, and keeps what was', async () => {
    const stored = recorded[`GET /builds/${MULE}`];
    const variants = stored.build.variants.map((one) =>
      one.id === 'core'
        ? { ...one, coolant: { ...one.coolant, volume_l: 21, glycol_vol_share: 0.4 } }
        : one,
    );
    const { screen, user } = await opened(
      at('mix'),
      new RecordedServer({
        [`GET /builds/${MULE}`]: { ...stored, build: { ...stored.build, variants } },
      }),
    );
    const value = (label: string) => (screen.getByLabelText(label) as HTMLInputElement).value;
    await screen.findByLabelText('All coolant');
    await user.clear(screen.getByLabelText('Strength now'));
    await user.type(screen.getByLabelText('Strength now'), '20');
    act(() => {
      history.pushState(null, '', `/builds/${MULE}/core/fit/mix`);
      dispatchEvent(new PopStateEvent('popstate'));
    });
    await waitFor(() => expect(value('All coolant')).toBe('21'));
    expect(value('Strength wanted')).toBe('40');
    expect(value('Strength now')).toBe('20');
  });

  it('is poured as water where that is chosen, and says what nobody knows of the old fill', async () => {
    const stored = recorded[`GET /builds/${MULE}`];
    const fill = (kind: string) => {
      const variants = stored.build.variants.map((one) => ({
        ...one,
        coolant: { ...one.coolant, kind: one.id === 'core-fans' ? kind : one.coolant.kind },
      }));
      const build = { ...stored.build, standing: null, variants };
      return new RecordedServer({ [`GET /builds/${MULE}`]: { ...stored, build } });
    };
    const first = await opened(at('mix'), fill('water'));
    const value = (label: string) => (screen.getByLabelText(label) as HTMLInputElement).value;
    const { screen } = first;
    await screen.findByLabelText('Strength wanted');
    expect([value('Strength wanted'), value('Poured in')]).toEqual(['0', '0']);
    expect(screen.getByText(/Nobody has said: a third is taken/)).toBeDefined();
    cleanup();
    const second = await opened(at('mix'), fill('waterless'));
    expect(await second.screen.findByText(/how much water stays, below/)).toBeDefined();
  });

  it('is not driven in the model in air that cannot be read', async () => {
    const { screen, user, server } = await opened(at('fill'));
    await screen.findByText('Thermostat opens');
    const asked = server.sent('POST /fit/filling').length;
    const air = screen.getByLabelText('Air of the day');
    await user.clear(air);
    await user.type(air, 'warm');
    expect(screen.getByRole('alert').textContent).toContain('is not a number');
    expect(screen.queryByText('Thermostat opens')).toBeNull();
    expect(server.sent('POST /fit/filling').length).toBeLessThanOrEqual(asked + 1);
    for (const body of server.sent('POST /fit/filling'))
      expect((body as { ambient_c: unknown }).ambient_c).not.toBe('warm');
  });
});

describe('what did not pass', () => {
  it('is looked into in a case of its own, whichever was looked at before, and in one alone', async () => {
    const job = recorded[`GET /builds/${MULE}/jobs`][0];
    const leaks = {
      ...job?.entries[0],
      ...{
        id: 'p1',
        kind: 'proof',
        plan: null,
        step: null,
        proof: 'cold_morning',
        verdict: 'fail',
      },
    };
    const server = new RecordedServer({
      [`GET /builds/${MULE}/jobs`]: [{ ...job, entries: [leaks] }],
    });
    const { screen, user } = await opened(at('prove'), server);
    const other = useCases.getState().begin(MULE);
    useCases.getState().add(other, { kind: 'seen', observation: 'complaint', value: 'runs_hot' });
    useChosenCase.getState().choose(MULE, other);
    for (let press = 0; press < 2; press++) {
      await user.click(
        (await screen.findAllByRole('button', { name: 'look into it' }))[0] as Element,
      );
      await waitFor(() =>
        expect(JSON.stringify(server.sent('POST /diagnosis').at(-1))).toContain('loses_coolant'),
      );
      act(() => window.history.back());
    }
    expect(Object.keys(useCases.getState().journals)).toHaveLength(2);
  });
});
