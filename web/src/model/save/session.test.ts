import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { build, StoringServer } from '../../testing/storing';
import type { Build } from '../api/types';
import { openSession, type Session } from './session';

const WIDTH = '/variants/0/radiator/width_mm';

let server: StoringServer;
let session: Session;
const state = () => session.getState();
const kept = () => Object.keys(localStorage).filter((key) => key.startsWith('ebbrin.draft.x'));

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

describe('drives of a build', () => {
  const drives = [{ id: 'd', name: 'Over the hill', legs: [], faults: [] }];

  it('are saved and undone without asking for the loop again', async () => {
    const { asked } = state();
    state().setValue('/drives', drives);
    expect(state().current).toBe(true);
    expect(state().asked).toBe(asked);
    await pass(1000);
    expect(server.saved.at(-1)?.build.drives).toEqual(drives);
    expect(server.evaluated).toBe(1);
    state().undo();
    expect(state().build.drives).toBeUndefined();
    await pass(1000);
    expect(server.evaluated).toBe(1);
  });

  it('leave what is changed beside them to be judged', async () => {
    state().setValue('/drives', drives);
    state().setValue(WIDTH, 600);
    await pass(50);
    expect(server.evaluated).toBe(2);
    expect(state().asked.variants[0]?.radiator?.width_mm).toBe(600);
  });
});

describe('an opened build', () => {
  it('is judged at once', () => {
    expect(server.evaluated).toBe(1);
    expect(state().current).toBe(true);
    expect(state().saveState).toBe('saved');
  });

  it('is judged soon after an edit and saved by itself, based on its revision', async () => {
    state().setValue(WIDTH, 600);
    expect(kept()).toHaveLength(1);
    await pass(60);
    expect(server.evaluated).toBe(2);
    expect(server.saved).toHaveLength(0);
    await pass(900);
    expect(server.saved.map((save) => save.basedOn)).toEqual(['"1"']);
    expect(state()).toMatchObject({ saveState: 'saved', revision: 2, dirty: false });
    expect(kept()).toHaveLength(0);
  });

  it('is asked about at the first of several changes made in one go, and once more when all are', async () => {
    for (const width of [600, 610, 620, 630]) state().setValue(WIDTH, width);
    await pass(0);
    expect(server.judged).toEqual([500, 600, 630]);
    expect(state().current).toBe(true);
    state().setValue(WIDTH, 640);
    await pass(0);
    expect(server.judged).toEqual([500, 600, 630, 640]);
  });

  it('saves once for a burst of keystrokes', async () => {
    for (const width of [510, 520, 530]) {
      state().setValue(WIDTH, width);
      await pass(100);
    }
    await pass(1000);
    expect(server.saved).toHaveLength(1);
    expect(server.evaluated).toBe(4);
  });

  it('waits for a slow save before the next, which is based on it', async () => {
    server.delay = 2000;
    state().setValue(WIDTH, 600);
    await pass(800);
    expect(state().saveState).toBe('saving');
    state().setValue(WIDTH, 700);
    await pass(900);
    expect(server.saved).toHaveLength(1);
    await pass(6000);
    expect(server.saved.map((save) => save.basedOn)).toEqual(['"1"', '"2"']);
    expect(state()).toMatchObject({ saveState: 'saved', revision: 3, dirty: false });
  });

  it('is tried at another site without being changed, and keeps it only when told', async () => {
    const site = { ambient_c: 45, altitude_m: 1500 };
    state().tryAt(site);
    expect(state()).toMatchObject({ whatIf: site, dirty: false });
    expect(state().asked.site).toEqual(site);
    expect(state().build.site).not.toEqual(site);
    await pass(1500);
    expect(server.evaluated).toBe(2);
    expect(server.saved).toHaveLength(0);
    // An edit meanwhile is an edit of the build at its own site.
    state().setValue(WIDTH, 610);
    await pass(1500);
    expect(server.saved.at(-1)?.build.site).not.toEqual(site);
    expect(state().asked.site).toEqual(site);
    state().tryAt(null);
    expect(state().asked).toBe(state().build);
    state().tryAt(site);
    state().keepWhatIf();
    await pass(1500);
    expect(server.saved.at(-1)?.build.site).toEqual(site);
    expect(state().whatIf).toBeNull();
    state().undo();
    expect(state().build.site).not.toEqual(site);
  });

  it('can be undone and redone, a burst in one field as one step', async () => {
    state().setValue(WIDTH, 510);
    state().setValue(WIDTH, 520);
    await pass(1500);
    state().setValue('/name', 'other');
    state().undo();
    expect(state().build.name).toBe('b');
    expect(state().build.variants[0]?.radiator?.width_mm).toBe(520);
    state().undo();
    expect(state().build.variants[0]?.radiator?.width_mm).toBe(500);
    state().undo();
    state().redo();
    expect(state().build.variants[0]?.radiator?.width_mm).toBe(520);
    await pass(1500);
    expect(server.saved.at(-1)?.build.variants[0]?.radiator?.width_mm).toBe(520);
    state().setValue('/name', 'third');
    state().redo();
    expect(state().build.name).toBe('third');
  });

  it('shows another variant, and stays within what there is', async () => {
    const second = { ...build.variants[0], id: 'w', name: 'w' } as Build['variants'][number];
    state().setBuild({ ...build, variants: [...build.variants, second] });
    state().chooseVariant('w');
    await pass(700);
    expect(state().variant).toBe(1);
    expect(Object.keys(state().further?.others ?? {})).toEqual(['v']);
    state().undo();
    expect(state().variant).toBe(0);
  });

  it('shows the variant before it where the shown one goes, wherever the others stand', async () => {
    const named = (...ids: string[]) => ({
      ...build,
      variants: ids.map((id) => ({ ...build.variants[0], id }) as Build['variants'][number]),
    });
    const shown = () => state().build.variants[state().variant]?.id;
    state().setBuild(named('v', 'x', 'y', 'z'));
    state().chooseVariant('x');
    state().setBuild(named('v', 'x', 'y', 'z', 'tried'));
    state().chooseVariant('tried');
    state().undo();
    expect(shown()).toBe('x');
    state().chooseVariant('z');
    state().setBuild(named('v', 'y', 'z'));
    expect(shown()).toBe('z');
    state().setBuild(named('v', 'y'));
    expect(shown()).toBe('v');
  });

  it('does nothing for a value that is the same', async () => {
    state().setValue(WIDTH, 500);
    await pass(1000);
    expect(server.saved).toHaveLength(0);
    expect(state().dirty).toBe(false);
  });

  it('keeps text that cannot be read, and lets it go once it can', async () => {
    state().setText(WIDTH, 'wide');
    expect(state().texts).toEqual({ [WIDTH]: 'wide' });
    expect(kept()).toHaveLength(1);
    state().setValue(WIDTH, 500);
    expect(state().texts).toEqual({});
    expect(kept()).toHaveLength(0);
  });

  it('keeps the last valid answer when a value is refused, with the reason', async () => {
    const before = state().evaluation;
    const errors = [{ path: WIDTH, message: 'Core width is wrong.' }];
    server.evaluate = {
      status: 422,
      body: { type: 'urn:ebbrin:invalid-build', status: 422, detail: 'One.', errors },
    };
    state().setValue(WIDTH, 700);
    await pass(60);
    expect(state().evaluation).toBe(before);
    expect(state()).toMatchObject({ current: false, problem: 'One.', needed: false });
    expect(state().problems[0]?.path).toBe(WIDTH);
  });

  it('holds on to edits while the server is away and saves when it is back', async () => {
    server.save = 'away';
    state().setValue(WIDTH, 640);
    await pass(1000);
    expect(state()).toMatchObject({ saveState: 'away', serverAway: true, dirty: true });
    expect(kept()).toHaveLength(1);
    server.save = null;
    await pass(2500);
    expect(state()).toMatchObject({ saveState: 'saved', serverAway: false, dirty: false });
    expect(server.stored.build).toMatchObject({ variants: [{ radiator: { width_mm: 640 } }] });
  });

  it('asks again for what got no answer while the server was away', async () => {
    server.silent = true;
    server.save = 'away';
    state().setValue(WIDTH, 640);
    await pass(1000);
    expect(state()).toMatchObject({ serverAway: true, current: false });
    server.silent = false;
    server.save = null;
    await pass(2500);
    expect(state()).toMatchObject({ saveState: 'saved', serverAway: false, current: true });
  });

  it('offers both versions when somebody saved in between, and keeps both', async () => {
    const theirs = { ...server.stored, revision: 5, build: { ...build, name: 'theirs' } };
    server.save = {
      status: 412,
      body: { type: 'urn:ebbrin:conflict', status: 412, detail: 'd', errors: [], current: theirs },
    };
    state().setValue(WIDTH, 640);
    await pass(1000);
    expect(state()).toMatchObject({ saveState: 'conflict', dirty: true });
    await pass(5000);
    expect(server.saved).toHaveLength(1);
    server.save = null;
    server.stored = theirs;
    await state().takeTheirs();
    expect(server.saved.map((save) => save.basedOn)).toEqual(['"1"', '"5"', '"6"']);
    expect(server.saved[1]?.build).toMatchObject({ variants: [{ radiator: { width_mm: 640 } }] });
    expect(state().build.name).toBe('theirs');
    expect(state()).toMatchObject({ saveState: 'saved', dirty: false, conflict: null });
  });

  it('goes on with its own version on top when told so', async () => {
    const theirs = { ...server.stored, revision: 5, build: { ...build, name: 'theirs' } };
    server.save = {
      status: 412,
      body: { type: 'urn:ebbrin:conflict', status: 412, detail: 'd', errors: [], current: theirs },
    };
    state().setValue(WIDTH, 640);
    await pass(1000);
    server.save = null;
    server.stored = theirs;
    await state().saveMine();
    expect(server.saved.at(-1)?.basedOn).toBe('"5"');
    expect(state()).toMatchObject({ saveState: 'saved', revision: 6 });
  });

  it('sees no conflict in its own save whose answer was lost', async () => {
    const own = {
      ...build,
      variants: [
        {
          id: 'v',
          name: 'v',
          engine: { displacement_l: 2, rated_power_kw: 90 },
          radiator: { width_mm: 640, height_mm: 400, depth_mm: 30 },
        },
      ],
    } as unknown as Build;
    const current = { ...server.stored, revision: 2, build: own };
    server.save = {
      status: 412,
      body: { type: 'urn:ebbrin:conflict', status: 412, detail: 'd', errors: [], current },
    };
    state().setValue(WIDTH, 640);
    await pass(1000);
    expect(state()).toMatchObject({ saveState: 'saved', revision: 2, conflict: null });
  });

  it('brings unsaved edits and unread text back after a reload', async () => {
    server.save = 'away';
    state().setValue(WIDTH, 640);
    state().setText('/site/ambient_c', 'hot');
    await pass(1000);
    const again = await openSession('x');
    expect(again.getState()).toMatchObject({
      restored: true,
      dirty: true,
      texts: { '/site/ambient_c': 'hot' },
    });
    expect(again.getState().build).toMatchObject({ variants: [{ radiator: { width_mm: 640 } }] });
    again.getState().close();
  });

  it('remembers the answer before a change as its ghost', async () => {
    await pass(3000);
    const before = state().evaluation;
    state().setValue(WIDTH, 640);
    expect(state().ghost).toBe(before);
  });
});
