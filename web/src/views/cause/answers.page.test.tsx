import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { CaseFinding, Diagnosis } from '../../model/api/types';
import recorded from '../../testing/answers.json';
import { caseBody } from '../../testing/cases';
import { MULE, opened, RecordedServer, said } from '../../testing/page';

afterEach(cleanup);

const WORDS = ['', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'];

const cause = `/builds/${MULE}/as-found/cause`;
const asks = 'POST /diagnosis';
const found = recorded[asks] as unknown as Diagnosis;
type Question = { evidence: Record<string, string>; order: string; hourly_rate: number };

/** A server that keeps cases: what was found is what was sent. */
function keeping(more: Record<string, unknown> = {}) {
  const findings: CaseFinding[] = [];
  const ids: string[] = [];
  const own: Record<string, unknown> = { ...more };
  own[`POST /builds/${MULE}/cases`] = (body: unknown) => {
    const { id } = body as { id: string };
    ids.push(id);
    own[`POST /cases/${id}/findings`] = (sent: unknown) => {
      findings.push(...(sent as { findings: CaseFinding[] }).findings);
      return caseBody(id, MULE, findings);
    };
    return caseBody(id, MULE);
  };
  return { server: new RecordedServer(own), findings, ids };
}

const asked = (server: RecordedServer) => server.sent(asks).at(-1) as Question;

/** The test that lies open. */
const open = async (screen: Awaited<ReturnType<typeof opened>>['screen']) =>
  within(await screen.findByRole('region', { name: 'Next test' }));

describe('a test that is worked from', () => {
  it('is the first of the order, with why, how long and what it takes', async () => {
    const { screen } = await opened(cause);
    const next = await screen.findByRole('region', { name: 'Next test' });
    const first = found.next[0];
    expect(within(next).getByRole('heading', { name: first?.question ?? '?' })).toBeDefined();
    expect(said(next)).toContain(first?.why ?? '?');
    for (const value of first?.values ?? [])
      expect(next.querySelector(`[data-value="${value.value}"]`)).not.toBeNull();
  });

  it('can be any that was not the first, from the list beside it', async () => {
    const { screen, user } = await opened(cause);
    const next = await open(screen);
    const other = found.next.find(
      (test) =>
        found.groups.some((g) => g.observations.includes(test.observation)) &&
        test !== found.next[0],
    );
    await user.click(next.getByRole('button', { name: other?.question ?? '?' }));
    expect(next.getByRole('heading', { name: other?.question ?? '?' })).toBeDefined();
  });

  it('can be whatever else was seen: a question to the driver, the next, or any other', async () => {
    const { screen, user } = await opened(cause);
    const else_ = await screen.findByLabelText('What else was seen');
    const next = await open(screen);
    for (const test of [found.questions.at(-1), found.next.at(-1), found.others.at(-1)]) {
      await user.selectOptions(else_, test?.observation ?? '?');
      expect(next.getByRole('heading', { name: test?.question ?? '?' })).toBeDefined();
    }
  });

  it('is answered with what was read, in one unit, and a note', async () => {
    const { server, findings } = keeping();
    const { screen, user } = await opened(cause, server);
    await user.selectOptions(await screen.findByLabelText('What else was seen'), 'hose_difference');
    const next = await open(screen);
    await user.type(next.getByLabelText('Upper hose'), '190 °F');
    await user.type(next.getByLabelText('Lower hose'), '61');
    await user.click(next.getByText('note'));
    await user.type(await next.findByLabelText('Note to this test'), ' after the hill ');
    const answer = next
      .getAllByRole('button')
      .find((button) => button.dataset.value !== undefined) as HTMLElement;
    await user.click(answer);
    await waitFor(() => expect(findings).toHaveLength(1));
    expect(findings[0]).toMatchObject({
      kind: 'seen',
      observation: 'hose_difference',
      value: answer.dataset.value,
      note: 'after the hill',
    });
    // 190 °F are 87.78 °C: the figure is of the unit that stands behind it.
    expect(findings[0]?.measured).toBe('Upper hose 87.778 °C, Lower hose 61 °C');
    await waitFor(() => expect(asked(server).evidence.hose_difference).toBe(answer.dataset.value));
  });

  it('is not answered while a reading is no number or of another kind, and says which', async () => {
    const { server, findings } = keeping();
    const { screen, user } = await opened(cause, server);
    await user.selectOptions(await screen.findByLabelText('What else was seen'), 'hose_difference');
    const next = await open(screen);
    const upper = next.getByLabelText('Upper hose');
    const answers = () =>
      next
        .getAllByRole('button')
        .filter((button) => button.dataset.value !== undefined) as HTMLButtonElement[];
    for (const [typed, says] of [
      ['hot', 'is not a number'],
      ['3 kPa', 'is not a unit that fits here'],
    ] as const) {
      await user.clear(upper);
      await user.type(upper, typed);
      expect(next.getByRole('alert').textContent).toContain(says);
      expect(answers().every((button) => button.disabled)).toBe(true);
    }
    await user.clear(upper);
    expect(next.queryByRole('alert')).toBeNull();
    expect(answers().some((button) => button.disabled)).toBe(false);
    expect(findings).toEqual([]);
  });

  it('can be left: what cannot be looked at is kept as that', async () => {
    const { server, findings } = keeping();
    const { screen, user } = await opened(cause, server);
    const next = await open(screen);
    await user.click(next.getByRole('button', { name: 'can’t look' }));
    await waitFor(() => expect(findings).toHaveLength(1));
    expect(findings[0]).toMatchObject({
      observation: found.next[0]?.observation,
      value: 'not_looked',
    });
  });
});

describe('what was seen', () => {
  const seen = (observation: string, value: string, question: string) => ({
    observation,
    value,
    question,
    said: [`${question} ${value}`],
    values: [
      { value: 'yes', words: ['yes'] },
      { value: 'no', words: ['no'] },
    ],
  });
  const with_ = (extra: Partial<Diagnosis>) => ({ [asks]: { ...found, ...extra } });

  it('is changed and taken back', async () => {
    const one = seen('puddle', 'yes', 'A puddle under it?');
    const { server, findings } = keeping(with_({ seen: [one] as never }));
    const { screen, user } = await opened(cause, server);
    const list = within(await screen.findByRole('region', { name: 'What was seen' }));
    const change = list.getByRole('button', { name: 'Change: A puddle under it?' });
    await user.click(change);
    expect(change.getAttribute('aria-expanded')).toBe('true');
    await user.click(list.getByRole('button', { name: 'no' }));
    await waitFor(() => expect(findings).toHaveLength(1));
    expect(findings[0]).toMatchObject({ kind: 'seen', observation: 'puddle', value: 'no' });
    await user.click(change);
    await user.click(list.getByRole('button', { name: 'take it back' }));
    await waitFor(() => expect(findings).toHaveLength(2));
    expect(findings[1]).toMatchObject({ kind: 'taken_back', observation: 'puddle' });
  });

  it('keeps what nobody looked at apart, counted', async () => {
    const left = ['puddle', 'fuse'].map((name) => ({ ...seen(name, '', `${name}?`), value: null }));
    const { screen } = await opened(cause, new RecordedServer(with_({ seen: left as never })));
    expect(await screen.findByText('2 things nobody looked at')).toBeDefined();
  });

  it('asks in another order and at another price of time', async () => {
    const { screen, user, server } = await opened(cause);
    await user.selectOptions(await screen.findByLabelText('Order of tests'), 'cheapest');
    await waitFor(() => expect(asked(server).order).toBe('cheapest'));
    const rate = screen.getByLabelText('An hour is worth');
    await user.clear(rate);
    await user.type(rate, '42,5');
    await waitFor(() => expect(asked(server).hourly_rate).toBe(42.5));
  });
});

describe('mending', () => {
  const best = found.causes.reduce((a, b) => (b.explains > a.explains ? b : a));
  const sure = { [asks]: { ...found, enough: ['Sure enough.'] } };

  it('is offered when it is sure enough, then proved, then driven, and closes the case', async () => {
    const { server, findings } = keeping(sure);
    const { screen, user } = await opened(cause, server);
    const next = await open(screen);
    await user.click(next.getByRole('button', { name: 'It is mended' }));
    await waitFor(() => expect(findings).toHaveLength(1));
    expect(findings[0]).toMatchObject({ kind: 'mended', cause: best.cause });
    await user.click(await next.findByRole('button', { name: 'That is so' }));
    await user.click(next.getByRole('button', { name: 'It stayed cool' }));
    await waitFor(() => expect(findings.map((f) => f.kind)).toEqual(['mended', 'proved', 'drove']));
    expect(await screen.findByText(/The case is closed/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'open it again' }));
    await waitFor(() => expect(findings.at(-1)?.kind).toBe('opened'));
    expect(screen.queryByText(/The case is closed/)).toBeNull();
  });

  it('is not closed by a drive that got hot', async () => {
    const { server } = keeping(sure);
    const { screen, user } = await opened(cause, server);
    const next = await open(screen);
    await user.click(next.getByRole('button', { name: 'It is mended' }));
    await user.click(await next.findByRole('button', { name: 'That is so' }));
    await user.click(next.getByRole('button', { name: 'It got hot again' }));
    expect(await screen.findByText(/Hot again: something else is wrong as well/)).toBeDefined();
    expect(screen.queryByText(/The case is closed/)).toBeNull();
  });
});

describe('a second mend', () => {
  const best = found.causes.reduce((a, b) => (b.explains > a.explains ? b : a));
  const CASE = '0f4c1f0e-6a39-4d0c-9f6b-1d3c5f0a7b21';

  it('is offered where the first did not help, and the case stays open until both are proved', async () => {
    const at = { at: '2026-05-14T08:00:00Z', measured: '', note: '' };
    const findings: CaseFinding[] = [
      { ...at, id: 'f1', kind: 'mended', cause: 'a_cause_of_before' },
      { ...at, id: 'f2', kind: 'drove', value: 'hot' },
    ];
    const server = new RecordedServer({
      [asks]: { ...found, enough: ['Sure enough.'] },
      [`GET /builds/${MULE}/cases`]: [caseBody(CASE, MULE, findings)],
      [`POST /cases/${CASE}/findings`]: (sent: unknown) => {
        findings.push(...(sent as { findings: CaseFinding[] }).findings);
        return caseBody(CASE, MULE, findings);
      },
    });
    const { screen, user } = await opened(cause, server);
    const next = await open(screen);
    await next.findByRole('heading', { name: 'Mended: a cause of before' });
    await user.click(next.getByRole('button', { name: 'It is mended' }));
    await waitFor(() =>
      expect(findings.at(-1)).toMatchObject({ kind: 'mended', cause: best.cause }),
    );
    // One that was none after all is gone, and can be mended again.
    await waitFor(() =>
      expect(next.getAllByRole('button', { name: 'not mended after all' })).toHaveLength(2),
    );
    await user.click(
      next.getAllByRole('button', { name: 'not mended after all' })[1] as HTMLElement,
    );
    await user.click(await next.findByRole('button', { name: 'It is mended' }));
    await user.click(await next.findByRole('button', { name: 'It stayed cool' }));
    await next.findByText(/closes once all that was mended is proved/);
    for (const left of [1, 0]) {
      await user.click(next.getAllByRole('button', { name: 'That is so' })[0] as HTMLElement);
      await waitFor(() =>
        expect(next.queryAllByRole('button', { name: 'That is so' })).toHaveLength(left),
      );
    }
    expect(await screen.findByText(/The case is closed/)).toBeDefined();
  });
});

describe('what it may be', () => {
  it('says of each cause what stands for and against it, and never more than its chance', async () => {
    const { screen, user } = await opened(cause);
    const list = await screen.findByRole('region', { name: 'What it may be' });
    const lines = () => [...list.querySelectorAll('[data-cause]')];
    await user.click(within(list).getByText(/others explain it/));
    await waitFor(() => expect(lines()).toHaveLength(found.causes.length));
    for (const [i, line] of lines().entries()) {
      const told = found.causes[i];
      expect(said(line)).toContain(told?.words.replace(' of ten', '') ?? '?');
      const tenths = WORDS.indexOf(told?.words.replace(' of ten', '') ?? '?');
      expect(tenths).toBeLessThanOrEqual(10 * (told?.chance ?? 0) + 1e-6);
    }
  });

  it('tells what a cause stands on, how it is mended and proved, once it is opened', async () => {
    const { screen, user } = await opened(cause);
    const list = await screen.findByRole('region', { name: 'What it may be' });
    for (const told of found.causes.slice(0, 3)) {
      const line = list.querySelector(`[data-cause="${told.cause}"]`) as HTMLElement;
      const lies = line.closest('li') as HTMLElement;
      expect(said(lies)).not.toContain(told.mend);
      await user.click(line);
      await waitFor(() => expect(said(lies)).toContain(told.mend));
      for (const reason of [...told.for, ...told.against])
        expect(said(lies)).toContain(reason.said.filter((word) => typeof word === 'string').join());
    }
  });

  it('stops in red where the car must not be driven on', async () => {
    const stop = 'Stop: an engine that boils is not driven on.';
    const { screen } = await opened(cause, new RecordedServer({ [asks]: { ...found, stop } }));
    const alert = await screen.findByText(stop);
    expect(alert.closest('[role="alert"]')).not.toBeNull();
  });
});
