import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import recorded from '../../testing/answers.json';
import { JOB, MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const at = (part = '') => `/builds/${MULE}/core-fans/fit${part}`;
type Sent = { entries: { kind: string; step?: string; proof?: string; note?: string }[] };

const job = (more: Record<string, unknown> = {}) => {
  const server: RecordedServer = new RecordedServer({
    ...more,
    [`POST /jobs/${JOB}/entries`]: () => ({
      id: JOB,
      build_id: MULE,
      created_at: '2026-05-14T08:00:00Z',
      number: 60,
      entries: [],
    }),
  });
  const written = () =>
    (server.sent(`POST /jobs/${JOB}/entries`) as Sent[]).flatMap((one) => one.entries);
  return { server, written };
};

describe('what the workbench has against a job', () => {
  const asks = 'POST /fit/plan';
  const against = [['The core is 900 mm wide; the car has room for 740 mm.']];

  it.each(['', '/parts'])('is said before anything is bought (fit%s)', async (part) => {
    const server = new RecordedServer({ [asks]: { ...recorded[asks], against } });
    const { screen } = await opened(at(part), server);
    const told = await screen.findByRole('region', { name: 'Before it is bought' });
    expect(said(told)).toBe('Mind: The core is 900 mm wide; the car has room for 740 mm.');
  });

  it('is left out where there is nothing', async () => {
    const server = new RecordedServer({ [asks]: { ...recorded[asks], against: [] } });
    const { screen } = await opened(at(), server);
    await screen.findByRole('region', { name: 'Step' });
    expect(screen.queryByRole('region', { name: 'Before it is bought' })).toBeNull();
  });
});

describe('the list of parts', () => {
  it('says what no price is known of, and is in no sum', async () => {
    const asks = 'POST /fit/parts';
    const [first] = recorded[asks].lines;
    const lines = recorded[asks].lines.map((line) =>
      line.id === first?.id ? { ...line, price: null } : line,
    );
    const answer = { ...recorded[asks], lines, unpriced: [first?.title] };
    const server = new RecordedServer({ [asks]: answer, [`GET /builds/${MULE}/jobs`]: [] });
    const { screen } = await opened(at('/parts'), server);
    const title = first?.title.toLowerCase();
    expect(
      await screen.findByText(new RegExp(`Without ${title}: no price is known`)),
    ).toBeDefined();
  });
});

describe('what was noted of parts', () => {
  it('can be a price that no list knows', async () => {
    const asks = 'POST /fit/parts';
    const bought = recorded[asks].lines.find((line) => line.kind === 'buy');
    const lines = [{ ...bought, price: null }];
    const { server, written } = job({ [asks]: { ...recorded[asks], lines } });
    const { screen, user } = await opened(at('/parts'), server);
    await user.click(await screen.findByRole('button', { name: /what was paid/ }));
    await user.type(screen.getByLabelText(/price paid/), '120{Enter}');
    await waitFor(() => expect(written()[0]).toMatchObject({ kind: 'part', price: 120 }));
  });

  it('is not paid after all, and costs what the list says', async () => {
    const asks = 'POST /fit/parts';
    const bought = recorded[asks].lines.find((line) => line.kind === 'buy');
    const lines = [{ ...bought, id: 'radiator', price: 542, source: 'the shelf' }];
    const { server, written } = job({ [asks]: { ...recorded[asks], lines } });
    const { screen, user } = await opened(at('/parts'), server);
    const line = () => document.querySelector('[data-line=radiator]') as HTMLElement;
    await screen.findByRole('region', { name: 'To buy' });
    expect(said(line())).toContain('Price: paid.');
    await user.click(within(line()).getByRole('button', { name: /what was paid/ }));
    await user.click(within(line()).getByRole('button', { name: 'not paid after all' }));
    await waitFor(() => expect(said(line())).toContain('Price: the shelf.'));
    expect(said(line())).toContain('542');
    expect((within(line()).getByLabelText(/state/) as HTMLSelectElement).value).toBe('here');
    await waitFor(() => expect(written()[0]?.kind).toBe('taken_back'));
  });

  it('goes into the file of the list', async () => {
    const asks = 'POST /fit/parts/csv?currency=';
    const { server } = job({ [asks]: 'kind,part' });
    const { screen, user } = await opened(at('/parts'), server);
    const saved: string[] = [];
    vi.spyOn(URL, 'createObjectURL').mockReturnValue('blob:parts');
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: Element) {
      saved.push(this.getAttribute('download') ?? '');
    });
    await user.click(await screen.findByRole('button', { name: 'CSV' }));
    await waitFor(() => expect(saved).toEqual(['Mule parts.csv']));
    const [{ noted }] = server.sent(asks) as [{ noted: object }];
    expect(noted).toMatchObject({ radiator: { state: 'here', paid: 498 } });
  });

  it('says why there is no file', async () => {
    const asks = 'POST /fit/parts/csv?currency=';
    const { server } = job({ [asks]: new Refusal(503, 'Too many ask at once.') });
    const { screen, user } = await opened(at('/parts'), server);
    await user.click(await screen.findByRole('button', { name: 'CSV' }));
    expect(said(await screen.findByRole('alert'))).toBe('There is no file: Too many ask at once.');
  });

  it('is said to be of another variant’s job', async () => {
    const asks = `GET /builds/${MULE}/jobs` as const;
    const { screen } = await opened(at('/parts').replace('core-fans', 'core'));
    expect(recorded[asks][0]?.entries.some((one) => one.kind === 'part')).toBe(true);
    expect(await screen.findByText(/noted in a job for “Bigger core and fans”/)).toBeDefined();
    cleanup();
    const own = await opened(at('/parts'));
    await own.screen.findByRole('region', { name: 'To buy' });
    expect(own.screen.queryByText(/noted in a job for/)).toBeNull();
  });
});

describe('the work plan', () => {
  it('opens at the step that one is at, with the clock and what it expects', async () => {
    const { screen } = await opened(at());
    const card = await screen.findByRole('region', { name: 'Step' });
    const line = document.querySelector(`[data-step=${card.getAttribute('data-step-card')}]`);
    expect(line?.getAttribute('aria-current')).toBe('step');
    expect(said(card)).toMatch(/Step \d+ of \d+/);
    expect(said(line)).not.toContain('left out');
  });

  it('says how many steps a job counts whose build has changed since', async () => {
    const asks = `GET /builds/${MULE}/jobs` as const;
    const steps = recorded['POST /fit/plan'].steps.map((step) => step.id);
    const planned = { plan: { variant: 'core-fans', steps: steps.slice(2) } };
    const jobs = recorded[asks].map((one) => ({
      ...one,
      entries: one.entries.map((entry) =>
        entry.kind === 'planned' ? { ...entry, ...planned } : entry,
      ),
    }));
    const { screen } = await opened(at(), new RecordedServer({ [asks]: jobs }));
    const told = await screen.findByText(/The build has changed since/);
    expect(said(told)).toContain(
      `The job counts ${steps.length - 2} steps, the plan below ${steps.length}.`,
    );
  });

  it('names a few of the steps that a plan has no longer, and all of them when asked', async () => {
    const asks = `GET /builds/${MULE}/jobs` as const;
    const { titles, steps: there } = recorded['POST /fit/plan'];
    const gone = Object.entries(titles).filter(([id]) => !there.some((step) => step.id === id));
    const steps = [...there.map((step) => step.id), ...gone.map(([id]) => id)];
    const jobs = recorded[asks].map((one) => ({
      ...one,
      entries: one.entries.map((entry) =>
        entry.kind === 'planned' ? { ...entry, plan: { variant: 'sold', steps } } : entry,
      ),
    }));
    const { screen, user } = await opened(at(), new RecordedServer({ [asks]: jobs }));
    const told = await screen.findByText(/planned for a variant that is no longer there/);
    expect(said(told)).toContain(`and ${gone.length - 4} more.`);
    const last = gone.at(-1)?.[1] as string;
    expect(said(told)).not.toContain(last);
    await user.click(screen.getByRole('button', { name: 'name all of them' }));
    expect(said(told)).toContain(last);
  });

  it('writes down a tick, and goes on to the next step', async () => {
    const { server, written } = job();
    const { screen, user } = await opened(at(), server);
    const card = await screen.findByRole('region', { name: 'Step' });
    const step = card.getAttribute('data-step-card');
    await user.click(within(card).getByRole('button', { name: /^(Done|Passed), next/ }));
    await waitFor(() =>
      expect(written().map((one) => [one.kind, one.step])).toEqual([['ticked', step]]),
    );
    expect(screen.getByRole('region', { name: 'Step' }).getAttribute('data-step-card')).not.toBe(
      step,
    );
  });

  it('goes on from the last step to one that was passed by', async () => {
    const { screen, user } = await opened(at(), job().server);
    const first = await screen.findByRole('region', { name: 'Step' });
    const open = first.getAttribute('data-step-card');
    await user.click([...document.querySelectorAll('[data-step]')].at(-1) as HTMLElement);
    const last = screen.getByRole('region', { name: 'Step' });
    expect(last.getAttribute('data-step-card')).not.toBe(open);
    await user.click(within(last).getByRole('button', { name: /^(Done|Passed), next/ }));
    const shown = screen.getByRole('region', { name: 'Step' });
    expect(shown.getAttribute('data-step-card')).toBe(open);
  });

  it('wants a reason before a step is left out', async () => {
    const { server, written } = job();
    const { screen, user } = await opened(at(), server);
    const card = await screen.findByRole('region', { name: 'Step' });
    await user.click(within(card).getByRole('button', { name: 'skip, why' }));
    const leave = within(card).getByRole('button', { name: 'Leave it out' }) as HTMLButtonElement;
    expect(leave.disabled).toBe(true);
    await user.type(within(card).getByLabelText('Why is it left out?'), 'No fuel in it yet');
    await user.click(leave);
    await waitFor(() =>
      expect(written()[0]).toMatchObject({ kind: 'skipped', note: 'No fuel in it yet' }),
    );
  });

  it('starts the clock by a press, and that is written down', async () => {
    const { server, written } = job();
    const { screen, user } = await opened(at(), server);
    await screen.findByRole('region', { name: 'Step' });
    await user.click(document.querySelector('[data-step=idle]') as HTMLElement);
    const card = screen.getByRole('region', { name: 'Step' });
    expect(said(within(card).getByRole('timer'))).toBe('00:00');
    expect(await within(card).findByText('expected 17 to 30 min')).toBeDefined();
    await user.click(within(card).getByRole('button', { name: 'Start the clock' }));
    await waitFor(() => expect(written()[0]?.kind).toBe('started'));
    expect(within(card).getByText('running')).toBeDefined();
    expect(within(card).getByRole('button', { name: 'It opened now' })).toBeDefined();
  });
});

describe('fitting and filling', () => {
  it('says what to pour, and why it could not', async () => {
    const { screen } = await opened(at('/mix'));
    expect(await screen.findByText(/it comes to/)).toBeDefined();
    expect(screen.getByLabelText('Poured in')).toBeDefined();
    cleanup();
    const refused = new Refusal(422, 'No mixture is stronger than what is poured in.');
    const second = await opened(at('/mix'), new RecordedServer({ 'POST /fit/mix': refused }));
    expect(said(await second.screen.findByRole('alert'))).toContain(
      'stronger than what is poured in',
    );
  });

  it('says what the first run looks like', async () => {
    const { screen } = await opened(at('/fill'));
    const opens = await screen.findByText('Thermostat opens');
    const row = opens.closest('tr') as HTMLElement;
    expect(within(row).getAllByRole('cell').map(said)).toEqual([
      'Thermostat opens',
      '25',
      '17 to 30',
    ]);
    expect(screen.getByRole('region', { name: 'Ways of filling' })).toBeDefined();
  });

  it('judges the hold of today, not what was read days ago', async () => {
    const asks = `GET /builds/${MULE}/jobs` as const;
    const read = (id: string, at: string, value: number) => ({
      ...recorded[asks][0]?.entries[0],
      ...{ id, at, kind: 'gauge', plan: null, step: null, value, quantity: 'pressure' },
    });
    const entries = [
      read('g1', '2026-05-11T09:00:00Z', 99),
      read('g2', '2026-05-14T09:00:00Z', 90),
      read('g3', '2026-05-14T09:15:00Z', 90),
      read('g4', '2026-05-14T09:30:00Z', 90),
    ];
    const jobs = recorded[asks].map((one) => ({ ...one, entries }));
    const { screen, server } = await opened(at('/prove'), new RecordedServer({ [asks]: jobs }));
    expect(await screen.findByText(/1 reading of an earlier hold/)).toBeDefined();
    await waitFor(() =>
      expect(server.sent('POST /fit/hold').at(-1)).toMatchObject({
        readings: [0, 900, 1800].map((at_s) => ({ at_s, pressure_kpa: 90 })),
      }),
    );
  });

  it('lists what to buy', async () => {
    const { screen } = await opened(at('/parts'));
    const buy = await screen.findByRole('region', { name: 'To buy' });
    for (const title of ['Hose clamps', 'Seal rings']) expect(said(buy)).toContain(title);
  });

  it('wants three readings before it judges a pressure hold', async () => {
    const { screen, user } = await opened(at('/prove'), job().server);
    const hold = await screen.findByRole('region', { name: 'Pressure hold' });
    const write = within(hold).getByRole('button', { name: 'Write it down' }) as HTMLButtonElement;
    expect(write.disabled).toBe(true);
    await user.type(within(hold).getByLabelText('Gauge now'), '100');
    await user.click(write);
    expect(await within(hold).findByText(/2 more readings, and it can be told/)).toBeDefined();
  });

  it('takes a reading of the gauge back that was written down wrong', async () => {
    const { server, written } = job();
    const { screen, user } = await opened(at('/prove'), server);
    const hold = await screen.findByRole('region', { name: 'Pressure hold' });
    for (const read of ['100', '10']) {
      await user.type(within(hold).getByLabelText('Gauge now'), read);
      await user.click(within(hold).getByRole('button', { name: 'Write it down' }));
    }
    await user.click(await within(hold).findByText('2 readings'));
    await user.click(
      await within(hold).findByRole('button', { name: 'Take back: 10 kPa at 0 min' }),
    );
    expect(await within(hold).findByText(/2 more readings, and it can be told/)).toBeDefined();
    const [, wrong, back] = written() as { id: string; kind: string; of?: string }[];
    expect(back).toMatchObject({ kind: 'taken_back', of: wrong?.id });
    // What no gauge shows is not written down at all.
    await user.type(within(hold).getByLabelText('Gauge now'), '1000');
    expect(said(await within(hold).findByRole('alert'))).toContain('within 0 to 500 kPa');
    const write = within(hold).getByRole('button', { name: 'Write it down' }) as HTMLButtonElement;
    expect(write.disabled).toBe(true);
  });

  it('takes what a tick proved back with it', async () => {
    const { server, written } = job();
    const { screen, user } = await opened(at(), server);
    await screen.findByRole('region', { name: 'Step' });
    await user.click(document.querySelector('[data-step=second_cycle]') as HTMLElement);
    const card = () => screen.getByRole('region', { name: 'Step' });
    await user.click(within(card()).getByRole('button', { name: /^Passed, next/ }));
    await user.click(document.querySelector('[data-step=second_cycle]') as HTMLElement);
    await user.click(within(card()).getByRole('button', { name: 'Undo' }));
    await waitFor(() =>
      expect(written().map((one) => one.kind)).toEqual(['ticked', 'proof', 'undone', 'taken_back']),
    );
  });
});
