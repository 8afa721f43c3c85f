/** Where what was written leaves a job. */

import type { JobEntry } from '../api/types';

export interface StepStanding {
  readonly state: 'open' | 'ticked' | 'skipped';
  /** When it was ticked or skipped, and by whom. */
  readonly at: string | null;
  readonly by: string;
  /** Why it was skipped. */
  readonly reason: string;
  /** When its timer was started, while that runs; how long it took, once it was stopped [s]. */
  readonly startedAt: string | null;
  readonly took: number | null;
  /** When its timer was started last, whether it still runs or not. */
  readonly ranFrom: string | null;
  /** What happened while it ran: seconds from the start. */
  readonly moments: Readonly<Record<string, number>>;
  readonly readings: readonly JobEntry[];
  readonly notes: readonly JobEntry[];
  readonly photos: readonly JobEntry[];
}

export interface PartStanding {
  readonly state: 'to_get' | 'here' | 'fitted';
  readonly price: number | null;
  /** Ids of the entries that say a price. */
  readonly priced: readonly string[];
}

export interface JobStanding {
  readonly plan: NonNullable<JobEntry['plan']> | null;
  readonly steps: Readonly<Record<string, StepStanding>>;
  readonly parts: Readonly<Record<string, PartStanding>>;
  /** Readings of the gauge since the last hold was proved, in the order of their times. */
  readonly gauge: readonly JobEntry[];
  readonly proofs: readonly JobEntry[];
}

export const UNTOUCHED: StepStanding = {
  state: 'open',
  at: null,
  by: '',
  reason: '',
  startedAt: null,
  took: null,
  ranFrom: null,
  moments: {},
  readings: [],
  notes: [],
  photos: [],
};

export const seconds = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 1000;

export function standingOfJob(entries: readonly JobEntry[]): JobStanding {
  let plan: JobStanding['plan'] = null;
  const steps: Record<string, StepStanding> = {};
  const parts: Record<string, PartStanding> = {};
  let gauge: JobEntry[] = [];
  const proofs: JobEntry[] = [];
  const back = new Set(entries.flatMap((one) => (one.kind === 'taken_back' && one.of) || []));
  for (const one of entries) {
    if (back.has(one.id)) continue;
    if (one.kind === 'planned') plan = one.plan ?? null;
    if (one.kind === 'gauge') gauge = [...gauge, one];
    if (one.kind === 'proof') {
      proofs.push(one);
      if (one.proof === 'hold') gauge = [];
    }
    if (one.kind === 'part' && one.line) {
      const before = parts[one.line];
      parts[one.line] = {
        state: one.state ?? before?.state ?? 'to_get',
        price: one.price ?? before?.price ?? null,
        priced: [...(before?.priced ?? []), ...(one.price == null ? [] : [one.id])],
      };
    }
    if (!one.step) continue;
    const now = steps[one.step] ?? UNTOUCHED;
    steps[one.step] = after(now, one);
  }
  // One who was without a connection sends what he read earlier after what another has read since.
  gauge.sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  return { plan, steps, parts, gauge, proofs };
}

/** The step of its own plan that a job waits at, as its card counts it; null where it has none or nothing is left. */
export function nextStep({ plan, steps }: JobStanding): { number: number; of: number } | null {
  const at = plan ? plan.steps.findIndex((id) => (steps[id]?.state ?? 'open') === 'open') : -1;
  return plan && at >= 0 ? { number: at + 1, of: plan.steps.length } : null;
}

function after(now: StepStanding, one: JobEntry): StepStanding {
  const by = one.by ?? '';
  if (one.kind === 'ticked')
    return {
      ...now,
      state: 'ticked',
      at: one.at,
      by,
      took: now.startedAt ? seconds(now.startedAt, one.at) : now.took,
      startedAt: null,
    };
  if (one.kind === 'skipped')
    return { ...now, state: 'skipped', at: one.at, by, reason: one.note ?? '', startedAt: null };
  if (one.kind === 'undone') return { ...now, state: 'open', at: null, by: '', reason: '' };
  if (one.kind === 'started')
    return { ...now, startedAt: one.at, ranFrom: one.at, took: null, moments: {} };
  if (one.kind === 'stopped')
    return {
      ...now,
      took: now.startedAt ? seconds(now.startedAt, one.at) : now.took,
      startedAt: null,
    };
  if (one.kind === 'moment' && one.event && now.startedAt)
    return { ...now, moments: { ...now.moments, [one.event]: seconds(now.startedAt, one.at) } };
  if (one.kind === 'reading') return { ...now, readings: [...now.readings, one] };
  if (one.kind === 'note') return { ...now, notes: [...now.notes, one] };
  if (one.kind === 'photo') return { ...now, photos: [...now.photos, one] };
  return now;
}

export const standingStep = (standing: JobStanding, step: string): StepStanding =>
  standing.steps[step] ?? UNTOUCHED;

/** What changed in a plan since a job began: steps that are new in it, and those that it no longer has. */
export function changesOf(
  planned: JobStanding['plan'],
  steps: readonly string[],
): { readonly more: readonly string[]; readonly less: readonly string[] } {
  if (!planned) return { more: [], less: [] };
  return {
    more: steps.filter((id) => !planned.steps.includes(id)),
    less: planned.steps.filter((id) => !steps.includes(id)),
  };
}
