import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import recorded from '../../testing/answers.json';
import { build, LEVER, StoringServer } from '../../testing/storing';
import type { Build, Evaluation, Uncertainty } from '../api/types';
import { refined } from './further';
import { openSession, type Session } from './session';

let server: StoringServer;
let session: Session;
const state = () => session.getState();

async function pass(ms: number) {
  await vi.advanceTimersByTimeAsync(ms);
}

beforeEach(async () => {
  localStorage.clear();
  vi.useFakeTimers({ shouldAdvanceTime: true });
  server = new StoringServer();
  vi.stubGlobal('fetch', server.fetch);
  session = await openSession('x');
  await pass(50);
});

afterEach(() => {
  state().close();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('what comes after the answer', () => {
  it('asks for levers and chances when the hand rests', async () => {
    expect(state().further).toBeNull();
    await pass(600);
    expect(state().further).toMatchObject({ variant: 'v', levers: [LEVER] });
    expect(state().further?.sure).not.toBeNull();
    expect(state().further?.build).toBe(state().build);
  });

  it('asks again for levers and chances where the server was away meanwhile', async () => {
    await pass(100);
    expect(state()).toMatchObject({ current: true, further: null });
    server.evaluate = 'away';
    await pass(600);
    expect(state().further).toBeNull();
    server.evaluate = { status: 200, body: { variant_id: 'v', cases: [], assumed: [] } };
    await pass(4000);
    expect(state().further).toMatchObject({ variant: 'v', levers: [LEVER] });
  });

  it('says why another variant cannot be judged, but not of a failure that may pass', async () => {
    const second = { ...build.variants[0], id: 'w', name: 'w' } as Build['variants'][number];
    server.refused = { id: 'w', status: 422 };
    state().setBuild({ ...build, variants: [...build.variants, second] });
    await pass(700);
    expect(state().further).toMatchObject({ others: {}, unjudged: { w: 'refused' } });
    server.refused = { id: 'w', status: 500 };
    state().setBuild({ ...build, name: 'c', variants: [...build.variants, second] });
    await pass(700);
    expect(state().further).toMatchObject({ unjudged: {}, levers: [LEVER] });
    expect(state().further?.sure).not.toBeNull(); // the shown one has all that is its own
    server.refused = null;
    await pass(4000);
    expect(Object.keys(state().further?.others ?? {})).toEqual(['w']);
  });

  it('has the other variants by samples, too: two alike are judged alike', async () => {
    const case_ = { id: 'c', name: 'c', chance: 0.91, verdict: 'holds', sentence: [], detail: [] };
    const found = { cases: [case_], assumed: [], answers: {}, chance: 0.91, verdict: 'holds' };
    server.evaluate = { status: 200, body: found };
    const surer = { ...case_, case_id: 'c', chance: 0.88, verdict: 'tight' };
    server.sure = { samples: 400, chance: 0.88, verdict: 'tight', cases: [surer], answers: {} };
    const twin = { ...build.variants[0], id: 'w', name: 'w' } as Build['variants'][number];
    state().setBuild({ ...build, variants: [...build.variants, twin] });
    await pass(900);
    const { evaluation, further } = state();
    expect(evaluation?.verdict).toBe('tight');
    expect(further?.others.w).toMatchObject({ verdict: 'tight', cases: [{ chance: 0.88 }] });
  });
});

describe('an answer with the chances that sampling found', () => {
  it('has its verdicts, and its four answers by them', () => {
    const first = recorded['POST /evaluate?variant=as-found&levers=false'] as unknown as Evaluation;
    const sampled = recorded['POST /uncertainty?variant=as-found'] as unknown as Uncertainty;
    const radiator = { ...sampled.answers.radiator, sentence: ['holds every case'] };
    const [one, ...others] = sampled.cases as [Uncertainty['cases'][number]];
    const sure: Uncertainty = {
      ...sampled,
      verdict: 'holds',
      cases: [{ ...one, chance: 0.93, verdict: 'holds' }, ...others],
      answers: { ...sampled.answers, radiator },
    };
    const found = refined(first, sure);
    expect(found.cases.find((entry) => entry.id === one.case_id)).toMatchObject({
      chance: 0.93,
      verdict: 'holds',
    });
    expect(found.answers.radiator.sentence).toEqual(['holds every case']);
    expect(found.verdict).toBe('holds');
    expect(found.cases.map((entry) => entry.id)).toEqual(first.cases.map((entry) => entry.id));
  });
});
