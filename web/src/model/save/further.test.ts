import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { build, LEVER, StoringServer } from '../../testing/storing';
import type { Build } from '../api/types';
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
});
