/** Cases as this browser has them: what was found is kept here first, and sent until the server has it. */

import { create } from 'zustand';
import { backoff } from '../api/backoff';
import { AwayError, beginCase, ProblemError, sendFindings } from '../api/client';
import type { CaseBody, CaseFinding } from '../api/types';

/** A case of one build, or of any car (build null). */
export interface KeptCase {
  readonly id: string;
  readonly build: string | null;
  readonly createdAt: string;
  readonly begun: boolean;
  /** All that was found, the first one first. */
  readonly findings: readonly CaseFinding[];
  /** Ids of findings that the server has not confirmed. */
  readonly unsent: readonly string[];
}

export type NewFinding = Omit<CaseFinding, 'id' | 'at' | 'measured' | 'note'> &
  Partial<Pick<CaseFinding, 'measured' | 'note'>>;

interface Cases {
  readonly cases: Readonly<Record<string, KeptCase>>;
  readonly away: boolean;
  /** Why the server refused something; null where it did not. */
  readonly refused: string | null;
  readonly keeps: boolean;
  begin: (build: string | null) => string;
  add: (id: string, found: NewFinding) => void;
  /** What the server knows of a case, put under what it does not know yet. */
  adopt: (bodies: readonly CaseBody[]) => void;
  /** Send what is not sent, until it is. */
  send: () => Promise<void>;
}

const KEPT = 'ebbrin.cases';
const VERSION = 1;
const MOST_KEPT = 30;

function read(): Record<string, KeptCase> {
  try {
    const found = JSON.parse(localStorage.getItem(KEPT) ?? 'null');
    if (found?.version !== VERSION || typeof found.cases !== 'object') return {};
    return Object.fromEntries(
      Object.entries(found.cases as Record<string, KeptCase>).filter(
        ([id, one]) => one?.id === id && Array.isArray(one.findings) && Array.isArray(one.unsent),
      ),
    );
  } catch {
    return {};
  }
}

/** What is not sent is never let go; of the rest the newest stay. */
function write(cases: Record<string, KeptCase>): boolean {
  const newest = Object.values(cases).sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  const kept = newest.filter((one, n) => n < MOST_KEPT || one.unsent.length > 0 || !one.begun);
  try {
    const body = { version: VERSION, cases: Object.fromEntries(kept.map((one) => [one.id, one])) };
    localStorage.setItem(KEPT, JSON.stringify(body));
    return true;
  } catch {
    return false;
  }
}

/** What is in the browser already is joined with what this tab has: another tab may have found something, too. */
function joined(mine: Readonly<Record<string, KeptCase>>): Record<string, KeptCase> {
  const all: Record<string, KeptCase> = { ...read() };
  for (const [id, one] of Object.entries(mine)) {
    const there = all[id];
    if (!there) {
      all[id] = one;
      continue;
    }
    const known = new Set(one.findings.map((found) => found.id));
    const others = there.findings.filter((found) => !known.has(found.id));
    const waiting = there.unsent.filter((sent) => !known.has(sent));
    all[id] = {
      ...one,
      begun: one.begun || there.begun,
      findings: [...one.findings, ...others],
      unsent: [...one.unsent, ...waiting],
    };
  }
  return all;
}

let sending = false;
let timer: ReturnType<typeof setTimeout> | null = null;
let failed = 0;
/** Cases whose build the server does not have. */
const gone = new Set<string>();

export const useCases = create<Cases>()((set, get) => {
  function put(one: KeptCase) {
    const cases = joined({ ...get().cases, [one.id]: one });
    set({ cases, keeps: write(cases) });
  }
  /** A case that has to be begun and sent once more. */
  function anew(one: KeptCase) {
    const all = joined(get().cases);
    const now = all[one.id] ?? one;
    all[one.id] = { ...now, begun: false, unsent: now.findings.map((found) => found.id) };
    set({ cases: all, keeps: write(all) });
  }
  const waits = (one: KeptCase) =>
    one.findings.length > 0 && !gone.has(one.id) && (!one.begun || one.unsent.length > 0);
  async function sendOne(one: KeptCase) {
    if (!one.begun) await beginCase(one.id, one.build);
    const waiting = one.findings.filter((found) => one.unsent.includes(found.id));
    const body = waiting.length > 0 ? await sendFindings(one.id, waiting) : null;
    const now = get().cases[one.id] ?? one;
    const sent = new Set(waiting.map((found) => found.id));
    put({ ...now, begun: true, unsent: now.unsent.filter((id) => !sent.has(id)) });
    if (body) get().adopt([body]);
  }
  /** Sends what waits, case by case; one that is refused keeps no other back. */
  async function sendAll(): Promise<{ away: boolean; refused: string | null }> {
    let refused: string | null = null;
    for (const one of Object.values(get().cases).filter(waits)) {
      try {
        await sendOne(one);
      } catch (error) {
        if (error instanceof AwayError) return { away: true, refused };
        if (!(error instanceof ProblemError)) throw error;
        if (error.problem.type === 'urn:ebbrin:unknown-build') {
          // Its build is gone: it stays in this browser.
          gone.add(one.id);
          continue;
        }
        refused = error.message;
        // A store that was set back knows nothing of the case: it is begun anew, under the same ids.
        if (error.problem.type === 'urn:ebbrin:unknown-case') anew(one);
      }
    }
    return { away: false, refused };
  }
  function later() {
    if (timer !== null) clearTimeout(timer);
    timer = setTimeout(() => void get().send(), backoff(failed++));
  }
  return {
    cases: read(),
    away: false,
    refused: null,
    keeps: true,
    begin: (build) => {
      const id = crypto.randomUUID();
      const createdAt = new Date().toISOString();
      put({ id, build, createdAt, begun: false, findings: [], unsent: [] });
      return id;
    },
    add: (id, found) => {
      const one = get().cases[id];
      if (!one) return;
      const made: CaseFinding = {
        measured: '',
        note: '',
        ...found,
        id: crypto.randomUUID(),
        at: new Date().toISOString(),
      };
      put({ ...one, findings: [...one.findings, made], unsent: [...one.unsent, made.id] });
      failed = 0;
      void get().send();
    },
    adopt: (bodies) => {
      const cases = { ...get().cases };
      for (const body of bodies) {
        const mine = cases[body.id];
        const there = new Set(body.findings.map((found) => found.id));
        const mineOnly = mine ? mine.findings.filter((found) => !there.has(found.id)) : [];
        const findings = [...body.findings, ...mineOnly];
        const unsent = mine ? mine.unsent.filter((sent) => !there.has(sent)) : [];
        cases[body.id] = {
          id: body.id,
          build: body.build_id ?? null,
          createdAt: body.created_at,
          begun: true,
          findings,
          unsent,
        };
      }
      const all = joined(cases);
      set({ cases: all, keeps: write(all) });
    },
    send: async () => {
      if (sending) return;
      sending = true;
      const trouble = await sendAll().finally(() => {
        sending = false;
      });
      set(trouble);
      if (trouble.away || trouble.refused) return later();
      failed = 0;
      // What was found while the rest was on its way.
      if (Object.values(get().cases).some(waits)) void get().send();
    },
  };
});
