/** One opened build: the document as it is edited, its answer, and how it is saved. */

import { createStore } from 'zustand';
import { backoff } from '../api/backoff';
import { evaluate, openBuild, saveBuild } from '../api/client';
import { AwayError, ProblemError, patience } from '../api/transport';
import type { Build, ConflictProblem, Evaluation, Site, StoredBuild } from '../api/types';
import { onlyDrivesDiffer } from '../document/drives';
import { sameValue, valueAt, withValue } from '../document/fields';
import { missingValues } from '../document/missing';
import { counted } from '../words/counted';
import { findDraft, keepDraft, type Pending } from './drafts';
import { looker, passes, refined } from './further';
import { keepOpened, openOrKept } from './lastOpened';
import { shownIn } from './shown';
import type { SessionState } from './state';
import { movedTexts } from './texts';
import { NO_PAST, type Past, stepBack, stepForth, withStep } from './undo';

const SAVE_AFTER = 700;
const GHOST_AFTER = 2500;
const FURTHER_AFTER = 450;

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('ebbrin');

/** Opens a build at a variant, the first if none of that id is there. */
export async function openSession(id: string, variant?: string) {
  const [stored, draft] = await Promise.all([openOrKept(id), findDraft(id)]);
  return createSession(stored, draft?.dirty ? draft : null, draft?.texts ?? {}, variant);
}

/** The build at another site; the very same build without one. */
function at(build: Build, site: Site | null): Build {
  return site ? { ...build, site } : build;
}

export type Session = Awaited<ReturnType<typeof openSession>>;

function createSession(
  stored: StoredBuild,
  draft: { base: number; build: Build; pending?: Pending | null } | null,
  texts: Record<string, string>,
  wanted?: string,
) {
  const opened = draft?.build ?? stored.build;
  let evaluateTimer: ReturnType<typeof setTimeout> | undefined;
  let saveTimer: ReturnType<typeof setTimeout> | undefined;
  // How often in a row the server was away.
  let unjudged = 0;
  let unsaved = 0;
  let running: AbortController | null = null;
  let justAsked = false;
  let saving: Promise<void> | null = null;
  let again = false;
  let lastChange = 0;
  let closed = false;
  // Ids of the variants shown before, the last one first: where one goes, the one before it is shown again.
  let shownBefore: string[] = [];

  const store = createStore<SessionState>()((set, get) => ({
    id: stored.id,
    variant: Math.max(
      opened.variants.findIndex((entry) => entry.id === wanted),
      0,
    ),
    revision: draft?.base ?? stored.revision,
    build: opened,
    asked: opened,
    whatIf: null,
    dirty: draft !== null,
    savedAt: stored.saved_at,
    saveState: draft ? 'waiting' : 'saved',
    conflict: null,
    saveProblem: null,
    kept: true,
    restored: draft !== null || Object.keys(texts).length > 0,
    texts,
    problems: [],
    problem: null,
    needed: false,
    evaluation: null,
    ghost: null,
    current: false,
    serverAway: false,
    further: null,
    past: NO_PAST,
    pending: draft?.pending ?? null,

    chooseVariant: (id) => {
      const { variants } = get().build;
      const index = variants.findIndex((entry) => entry.id === id);
      if (index < 0 || index === get().variant) return;
      const left = variants[get().variant]?.id ?? '';
      shownBefore = [left, ...shownBefore.filter((entry) => entry !== left)];
      set({ variant: index, current: false, ghost: get().evaluation });
      scheduleEvaluation(0);
    },

    tryAt: (site) => {
      const { build, evaluation } = get();
      const now = Date.now();
      const ghost = now - lastChange > GHOST_AFTER ? evaluation : get().ghost;
      lastChange = now;
      set({ whatIf: site, asked: at(build, site), current: false, ghost });
      scheduleEvaluation(0);
    },

    keepWhatIf: () => {
      const { build, whatIf } = get();
      if (!whatIf) return;
      set({ whatIf: null });
      const kept = at(build, whatIf);
      change(kept, withStep(get().past, build, kept, null, Date.now()), get().evaluation);
    },

    setBuild: (build) => {
      const now = Date.now();
      change(build, withStep(get().past, get().build, build, null, now), get().evaluation);
    },

    undo: () => {
      const step = stepBack(get().past, get().build);
      if (step) change(step.build, step.past, get().evaluation);
    },

    redo: () => {
      const step = stepForth(get().past, get().build);
      if (step) change(step.build, step.past, get().evaluation);
    },

    setValue: (path, value) => {
      const { build, texts: kept } = get();
      const { [path]: _, ...others } = kept;
      if (sameValue(valueAt(build, path), value)) {
        if (path in kept) set({ texts: others });
        remember();
        return;
      }
      const now = Date.now();
      const ghost = now - lastChange > GHOST_AFTER ? get().evaluation : get().ghost;
      lastChange = now;
      set({ texts: others });
      const next = withValue(build, path, value);
      change(next, withStep(get().past, build, next, path, now), ghost);
    },

    setText: (path, text) => {
      set({ texts: { ...get().texts, [path]: text } });
      remember();
    },

    saveMine: async () => {
      const theirs = get().conflict;
      if (!theirs) return;
      set({ conflict: null, pending: null, revision: theirs.revision, saveState: 'waiting' });
      remember();
      await save();
    },

    takeTheirs: async () => {
      // Both versions stay in the history: first ours on top, then theirs again.
      const theirs = get().conflict;
      if (!theirs) return;
      try {
        const ours = await saveBuild(get().id, theirs.revision, get().build, crypto.randomUUID());
        const again = await saveBuild(get().id, ours.revision, theirs.build, crypto.randomUUID());
        adopt(again);
        channel?.postMessage({ id: again.id, revision: again.revision });
      } catch (error) {
        saveFailed(error);
      }
    },

    dismissRestored: () => set({ restored: false }),

    close: () => {
      closed = true;
      clearTimeout(evaluateTimer);
      clearTimeout(saveTimer);
      running?.abort();
      further.stop();
      channel?.removeEventListener('message', heard);
      if (get().dirty && get().saveState !== 'conflict') void save();
    },
  }));

  // What is not needed at once: asked for when the hand rests, dropped when it moves.
  const further = looker((found) => {
    const { evaluation, current } = store.getState();
    const judged =
      found.sure && current && evaluation ? refined(evaluation, found.sure) : evaluation;
    store.setState({ further: found, evaluation: judged });
  });

  function remember() {
    const { id, revision, build, dirty, pending, texts: kept } = store.getState();
    const worth = dirty || Object.keys(kept).length > 0;
    const ok = keepDraft(
      id,
      worth ? { base: revision, build, dirty, pending, texts: kept, at: Date.now() } : null,
    );
    if (store.getState().kept !== (ok || !worth)) store.setState({ kept: ok || !worth });
  }

  /** The shown variant, or where it is gone the one before it, by its place in a document. */
  function stillShown(next: Build): number {
    const { build, variant } = store.getState();
    return shownIn(next, [build.variants[variant]?.id, ...shownBefore], variant);
  }

  function change(build: Build, past: Past, ghost: Evaluation | null) {
    const { build: before, saveState, whatIf, texts: kept } = store.getState();
    // A drive changes no answer of the loop.
    const quiet = onlyDrivesDiffer(before, build);
    store.setState({
      build,
      texts: movedTexts(kept, before, build),
      past,
      variant: stillShown(build),
      dirty: true,
      saveState: saveState === 'conflict' ? 'conflict' : 'waiting',
      ...(quiet ? {} : { asked: at(build, whatIf), ghost, current: false }),
    });
    if (!quiet) scheduleEvaluation(0);
    remember();
    scheduleSave(SAVE_AFTER);
  }

  function adopt(next: StoredBuild) {
    keepOpened(next);
    store.setState({
      variant: stillShown(next.build),
      build: next.build,
      texts: movedTexts(store.getState().texts, store.getState().build, next.build),
      asked: at(next.build, store.getState().whatIf),
      revision: next.revision,
      savedAt: next.saved_at,
      dirty: false,
      conflict: null,
      pending: null,
      saveState: 'saved',
      current: false,
    });
    remember();
    scheduleEvaluation(0);
  }

  /** Without a wait it is asked before the change is drawn, so that the server works meanwhile; where several changes
   * are made in one go, of the first and once more when all are. */
  function scheduleEvaluation(after: number) {
    clearTimeout(evaluateTimer);
    further.stop();
    if (closed) return;
    if (after > 0 || justAsked) {
      evaluateTimer = setTimeout(() => void judge(), after);
      return;
    }
    justAsked = true;
    queueMicrotask(() => {
      justAsked = false;
    });
    void judge();
  }

  async function judge() {
    running?.abort();
    const mine = new AbortController();
    running = mine;
    const { asked: build, variant } = store.getState();
    const chosen = build.variants[variant]?.id ?? '';
    const missing = missingValues(build, variant);
    if (missing.length > 0) {
      const problem = `${counted(missing.length, 'value is', 'values are')} needed.`;
      store.setState({ problems: missing, problem, needed: true });
      return;
    }
    try {
      const evaluation = await evaluate(build, chosen, AbortSignal.any([mine.signal, patience()]));
      unjudged = 0;
      if (mine.signal.aborted) return;
      store.setState({
        evaluation,
        current: true,
        problems: [],
        problem: null,
        needed: false,
        serverAway: false,
      });
      further.look(build, chosen, FURTHER_AFTER);
    } catch (error) {
      if (mine.signal.aborted) return;
      if (error instanceof ProblemError) {
        store.setState({
          problems: error.problem.errors ?? [],
          problem: error.problem.detail,
          needed: error.problem.type === 'urn:ebbrin:values-needed',
          serverAway: false,
        });
        // The server's own failure may pass; what it refuses does not.
        if (passes(error)) scheduleEvaluation(backoff(unjudged++));
      } else if (error instanceof AwayError) {
        store.setState({ serverAway: true });
        scheduleEvaluation(backoff(unjudged++));
      }
    }
  }

  function scheduleSave(after: number) {
    clearTimeout(saveTimer);
    if (!closed) saveTimer = setTimeout(() => void save(), after);
  }

  /** Saves one at a time: a second save based on the same revision would be refused as somebody else's. */
  function save(): Promise<void> {
    if (saving) {
      again = true;
      return saving;
    }
    saving = saveOnce().finally(() => {
      saving = null;
      if (!again) return;
      again = false;
      return save();
    });
    return saving;
  }

  async function saveOnce() {
    const { id, revision, build, dirty, saveState, pending, serverAway } = store.getState();
    if (!dirty || saveState === 'conflict') return;
    // A save that got no answer may have arrived: the very same goes first, and is stored once.
    const sent = pending ?? { key: crypto.randomUUID(), base: revision, build };
    store.setState({ saveState: 'saving', saveProblem: null, pending: sent });
    remember();
    try {
      const next = await saveBuild(id, sent.base, sent.build, sent.key);
      keepOpened(next);
      unsaved = 0;
      const unchanged = sameValue(store.getState().build, sent.build);
      store.setState({
        revision: next.revision,
        savedAt: next.saved_at,
        pending: null,
        dirty: !unchanged,
        saveState: unchanged ? 'saved' : 'waiting',
        serverAway: false,
      });
      remember();
      channel?.postMessage({ id, revision: next.revision });
      if (!unchanged) scheduleSave(SAVE_AFTER);
      // What was asked while the server was away may wait for an answer that never comes.
      if (serverAway && !store.getState().current) scheduleEvaluation(0);
    } catch (error) {
      saveFailed(error);
    }
  }

  function saveFailed(error: unknown) {
    if (error instanceof ProblemError && error.problem.status === 412) {
      const { current } = error.problem as ConflictProblem;
      // Our own save may have arrived although its answer did not.
      if (sameValue(current.build, store.getState().build)) return adopt(current);
      store.setState({ saveState: 'conflict', conflict: current, pending: null });
    } else if (error instanceof ProblemError && error.problem.status >= 500) {
      // The server answers and cannot store it now: it is tried again, and what it says is shown.
      store.setState({ saveState: 'away', saveProblem: error.problem.detail, serverAway: false });
      scheduleSave(backoff(unsaved++));
    } else if (error instanceof ProblemError) {
      store.setState({
        pending: null,
        saveState: 'refused',
        problems: error.problem.errors ?? [],
        problem: error.problem.detail,
      });
    } else {
      store.setState({ saveState: 'away', serverAway: true });
      scheduleSave(backoff(unsaved++));
    }
    remember();
  }

  async function heard(event: MessageEvent<{ id: string; revision: number }>) {
    const { id, dirty, revision } = store.getState();
    if (closed || event.data.id !== id || dirty || event.data.revision <= revision) return;
    try {
      adopt(await openBuild(id));
    } catch {
      // The next save or reload will tell.
    }
  }

  channel?.addEventListener('message', heard);
  remember();
  // At once: a timer would wait until the page has been drawn without it.
  void judge();
  if (draft) scheduleSave(100);
  return store;
}
