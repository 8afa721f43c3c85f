import { beforeEach, describe, expect, it, vi } from 'vitest';
import { caseBody } from '../../testing/cases';
import type { CaseFinding } from '../api/types';

const server = vi.hoisted(() => ({
  beginCase: vi.fn(),
  sendFindings: vi.fn(),
}));
vi.mock('../api/cause', async (original) => ({
  ...(await original<typeof import('../api/cause')>()),
  ...server,
}));

import { AwayError, ProblemError } from '../api/transport';
import { storedCase, useCases } from './kept';
import { standingOf } from './standing';

let made = 0;
function finding(kind: CaseFinding['kind'], more: Partial<CaseFinding> = {}): CaseFinding {
  made += 1;
  return { id: `f${made}`, at: '2026-05-14T08:00:00Z', kind, measured: '', note: '', ...more };
}
const seen = (observation: string, value: string) => finding('seen', { observation, value });
const body = (id: string, findings: CaseFinding[]) => caseBody(id, null, findings);

describe('where findings leave a case', () => {
  it('takes the last answer, and none that was taken back', () => {
    const found = [seen('fuse', 'good'), seen('fuse', 'open'), seen('belt', 'tight')];
    expect(standingOf(found).evidence).toEqual({ fuse: 'open', belt: 'tight' });
    const back = [...found, finding('taken_back', { observation: 'fuse' })];
    expect(standingOf(back).evidence).toEqual({ belt: 'tight' });
  });

  it('closes by a proof and a cool drive, and opens again', () => {
    const mended = finding('mended', { cause: 'fan_fuse_open' });
    const proved = finding('proved', { cause: 'fan_fuse_open' });
    const cool = finding('drove', { value: 'cool' });
    expect(standingOf([mended, cool]).closed).toBe(false);
    expect(standingOf([mended, proved]).closed).toBe(false);
    expect(standingOf([mended, proved, cool]).closed).toBe(true);
    expect(standingOf([mended, proved, cool, finding('opened')]).closed).toBe(false);
    expect(standingOf([mended, proved, cool, mended]).closed).toBe(false);
    expect(standingOf([proved, cool]).closed).toBe(false);
  });

  it('forgets a mend that was none after all, with its proof, and no drive', () => {
    const one = { cause: 'fan_fuse_open' };
    const two = { cause: 'thermostat_shut' };
    const cool = finding('drove', { value: 'cool' });
    const begun = [finding('mended', one), finding('proved', one), cool, finding('mended', two)];
    expect(standingOf(begun)).toMatchObject({ drove: null, closed: false });
    expect(standingOf([...begun, finding('taken_back', two)])).toMatchObject({
      mended: ['fan_fuse_open'],
      drove: 'cool',
      closed: true,
    });
    const both = [...begun, finding('taken_back', two), finding('taken_back', one)];
    expect(standingOf(both)).toMatchObject({ mended: [], proved: [], closed: false });
  });

  it('stays open while one of two that were mended is not proved', () => {
    const one = { cause: 'fan_fuse_open' };
    const two = { cause: 'thermostat_shut' };
    const cool = finding('drove', { value: 'cool' });
    const begun = [finding('mended', one), finding('proved', one), finding('mended', two)];
    expect(standingOf([...begun, cool]).closed).toBe(false);
    expect(standingOf([...begun, cool, finding('proved', two)]).closed).toBe(true);
  });
});

describe('what is found is kept until the server has it', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
    useCases.setState({ journals: {}, away: false, refused: null, keeps: true });
    server.beginCase.mockReset().mockImplementation((id: string) => Promise.resolve(body(id, [])));
    server.sendFindings
      .mockReset()
      .mockImplementation((id: string, found: CaseFinding[]) => Promise.resolve(body(id, found)));
  });

  it('begins a case with its first finding and sends that once', async () => {
    const id = useCases.getState().begin(null);
    await vi.runAllTimersAsync();
    expect(server.beginCase).not.toHaveBeenCalled();
    useCases.getState().add(id, { kind: 'seen', observation: 'fuse', value: 'open' });
    await vi.runAllTimersAsync();
    expect(server.beginCase).toHaveBeenCalledOnce();
    expect(server.sendFindings).toHaveBeenCalledOnce();
    expect(useCases.getState().journals[id]?.unsent).toEqual([]);
    expect(useCases.getState().journals[id]?.entries).toHaveLength(1);
  });

  it('keeps on while the server is away, under the same ids', async () => {
    server.sendFindings.mockRejectedValueOnce(new AwayError());
    const id = useCases.getState().begin(null);
    useCases.getState().add(id, { kind: 'seen', observation: 'fuse', value: 'open' });
    await vi.advanceTimersByTimeAsync(10);
    expect(useCases.getState().away).toBe(true);
    expect(JSON.parse(localStorage.getItem('ebbrin.cases') ?? '').cases[id].unsent).toHaveLength(1);
    await vi.runAllTimersAsync();
    expect(useCases.getState().away).toBe(false);
    const sent = server.sendFindings.mock.calls.map(([, found]) =>
      found.map((f: CaseFinding) => f.id),
    );
    expect(sent).toHaveLength(2);
    expect(sent[0]).toEqual(sent[1]);
    expect(useCases.getState().journals[id]?.unsent).toEqual([]);
  });

  it('says what the server refused and loses nothing', async () => {
    const problem = { type: 'x', title: '', status: 422, detail: 'This case is full.', errors: [] };
    server.sendFindings.mockRejectedValueOnce(new ProblemError(problem));
    const id = useCases.getState().begin(null);
    useCases.getState().add(id, { kind: 'note', note: 'kept' });
    await vi.advanceTimersByTimeAsync(10);
    expect(useCases.getState().refused).toBe('This case is full.');
    expect(useCases.getState().journals[id]?.unsent).toHaveLength(1);
  });

  it('keeps what the server finds wrong in this browser, and sends all the rest', async () => {
    const message = 'Reading must not have more than 400 letters.';
    const problem = { type: 'x', title: '', status: 422, detail: 'One value is wrong.' };
    server.sendFindings.mockImplementation((id: string, found: CaseFinding[]) => {
      const n = found.findIndex((one) => one.measured === 'far too long');
      if (n < 0) return Promise.resolve(body(id, found));
      const errors = [{ path: `/findings/${n}/measured`, message }];
      return Promise.reject(new ProblemError({ ...problem, errors }));
    });
    const id = useCases.getState().begin(null);
    const { add } = useCases.getState();
    add(id, { kind: 'note', note: 'before' });
    add(id, { kind: 'note', measured: 'far too long' });
    add(id, { kind: 'note', note: 'after' });
    await vi.runAllTimersAsync();
    const one = useCases.getState().journals[id];
    const wrong = one?.entries.find((entry) => entry.measured === 'far too long');
    expect(one?.left).toEqual({ [wrong?.id ?? '']: message });
    expect(one?.unsent).toEqual([]);
    expect(useCases.getState().refused).toBeNull();
    const taken = server.sendFindings.mock.calls.flatMap(([, found]) =>
      found.map((entry: CaseFinding) => entry.note),
    );
    expect(taken).toContain('after');
    // It stays so when the page is loaded anew, and is not sent again.
    const asked = server.sendFindings.mock.calls.length;
    add(id, { kind: 'note', note: 'later' });
    await vi.runAllTimersAsync();
    expect(server.sendFindings.mock.calls.slice(asked).flatMap(([, found]) => found)).toHaveLength(
      1,
    );
    expect(JSON.parse(localStorage.getItem('ebbrin.cases') ?? '').cases[id].left).toEqual(
      one?.left,
    );
  });

  it('begins anew what the server no longer knows, under the same ids', async () => {
    const unknown = { type: 'urn:ebbrin:unknown-case', title: '', status: 404, detail: 'No case.' };
    const id = useCases.getState().begin(null);
    useCases.getState().add(id, { kind: 'seen', observation: 'fuse', value: 'open' });
    await vi.runAllTimersAsync();
    server.sendFindings.mockRejectedValueOnce(new ProblemError({ ...unknown, errors: [] }));
    useCases.getState().add(id, { kind: 'seen', observation: 'belt', value: 'tight' });
    await vi.runAllTimersAsync();
    expect(server.beginCase).toHaveBeenCalledTimes(2);
    expect(server.sendFindings.mock.lastCall?.[1]).toHaveLength(2);
    expect(useCases.getState().refused).toBeNull();
  });

  it('sends the others where the build of one is gone', async () => {
    const unknown = {
      type: 'urn:ebbrin:unknown-build',
      title: '',
      status: 404,
      detail: 'No build.',
    };
    const lost = useCases.getState().begin('gone');
    server.beginCase.mockRejectedValueOnce(new ProblemError({ ...unknown, errors: [] }));
    useCases.getState().add(lost, { kind: 'note', note: 'kept' });
    await vi.runAllTimersAsync();
    const other = useCases.getState().begin(null);
    useCases.getState().add(other, { kind: 'note', note: 'sent' });
    await vi.runAllTimersAsync();
    expect(useCases.getState().journals[other]?.unsent).toEqual([]);
    expect(useCases.getState().journals[lost]?.unsent).toHaveLength(1);
    expect(useCases.getState().refused).toBeNull();
  });

  it('puts what another device found under what it has not sent', async () => {
    server.sendFindings.mockRejectedValue(new AwayError());
    const id = useCases.getState().begin(null);
    useCases.getState().add(id, { kind: 'seen', observation: 'belt', value: 'tight' });
    await vi.advanceTimersByTimeAsync(10);
    useCases.getState().adopt([storedCase(body(id, [seen('fuse', 'open')]))]);
    const one = useCases.getState().journals[id];
    expect(standingOf(one?.entries ?? []).evidence).toEqual({ fuse: 'open', belt: 'tight' });
    expect(one?.unsent).toHaveLength(1);
  });

  it('sends much that has waited in pieces, each once', async () => {
    server.sendFindings.mockRejectedValueOnce(new AwayError());
    const id = useCases.getState().begin(null);
    for (let n = 0; n < 250; n++) useCases.getState().add(id, { kind: 'note', note: `${n}` });
    await vi.runAllTimersAsync();
    expect(useCases.getState().journals[id]?.unsent).toEqual([]);
    const sent = server.sendFindings.mock.calls.slice(1).map(([, found]) => found);
    expect(Math.max(...sent.map((found) => found.length))).toBeLessThanOrEqual(100);
    const ids = sent.flat().map((found: CaseFinding) => found.id);
    expect(new Set(ids).size).toBe(250);
  });

  it('keeps what another tab was told that the server does not take', () => {
    const id = useCases.getState().begin(null);
    const { cases } = JSON.parse(localStorage.getItem('ebbrin.cases') ?? '');
    const told = { ...cases[id], left: { f: 'It is too long.' } };
    localStorage.setItem('ebbrin.cases', JSON.stringify({ version: 1, cases: { [id]: told } }));
    useCases.getState().begin(null);
    expect(useCases.getState().journals[id]?.left).toEqual({ f: 'It is too long.' });
  });

  it('joins what another tab has kept', () => {
    const other = { id: 'o', build: null, createdAt: 'x', begun: false, findings: [], unsent: [] };
    localStorage.setItem('ebbrin.cases', JSON.stringify({ version: 1, cases: { o: other } }));
    const id = useCases.getState().begin(null);
    expect(Object.keys(useCases.getState().journals).sort()).toEqual([id, 'o'].sort());
  });
});
