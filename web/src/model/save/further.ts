/** What comes after the answer: levers, how sure it is, and the other variants. */

import { backoff } from '../api/backoff';
import { evaluate, howSure } from '../api/client';
import { ProblemError, reasonOf } from '../api/transport';
import type { Build, Evaluation, Lever, Uncertainty } from '../api/types';

export interface Further {
  /** What it belongs to. */
  readonly build: Build;
  readonly variant: string;
  readonly levers: readonly Lever[] | null;
  readonly sure: Uncertainty | null;
  /** Why it cannot be said how sure it is. */
  readonly unsure: string | null;
  /** Answers of the other variants, by id. */
  readonly others: Readonly<Record<string, Evaluation>>;
  /** Why those cannot be judged that have none. */
  readonly unjudged: Readonly<Record<string, string>>;
}

/** Whether what went wrong may be well in a moment: what a server refuses stays refused. */
export function passes(error: unknown): boolean {
  return !(error instanceof ProblemError) || error.problem.status >= 500;
}

async function lookFurther(
  build: Build,
  variant: string,
  signal: AbortSignal,
  tell: (found: Further) => void,
): Promise<void> {
  let found: Further = {
    build,
    variant,
    levers: null,
    sure: null,
    unsure: null,
    others: {},
    unjudged: {},
  };
  let missed: ProblemError | null = null;
  const levers = (await evaluate(build, variant, signal, true)).levers;
  found = { ...found, levers };
  tell(found);
  for (const other of build.variants) {
    if (other.id === variant) continue;
    try {
      const answer = await evaluate(build, other.id, signal);
      found = { ...found, others: { ...found.others, [other.id]: answer } };
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      // What fails of another variant keeps nothing of the shown one back.
      if (passes(error)) missed = error;
      else found = { ...found, unjudged: { ...found.unjudged, [other.id]: reasonOf(error) } };
    }
    tell(found);
  }
  try {
    found = { ...found, sure: await howSure(build, variant, signal) };
  } catch (error) {
    if (!(error instanceof ProblemError) || passes(error)) throw error;
    found = { ...found, unsure: error.problem.detail };
  }
  tell(found);
  // Two alike must not stand side by side with different verdicts: the others go by samples, too.
  for (const [id, answer] of Object.entries(found.others)) {
    try {
      const surer = refined(answer, await howSure(build, id, signal));
      found = { ...found, others: { ...found.others, [id]: surer } };
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      if (passes(error)) missed = error;
    }
    tell(found);
  }
  if (missed) throw missed;
}

/** Looks for what comes after an answer while the hand rests; again, later and later, where what went wrong may pass. */
export function looker(tell: (found: Further) => void) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: AbortController | null = null;
  let failed = 0;

  function stop() {
    clearTimeout(timer);
    running?.abort();
  }

  function look(build: Build, variant: string, after: number) {
    stop();
    timer = setTimeout(() => void now(build, variant), after);
  }

  async function now(build: Build, variant: string) {
    const mine = new AbortController();
    running = mine;
    try {
      await lookFurther(build, variant, mine.signal, (found) => {
        if (!mine.signal.aborted) tell(found);
      });
      failed = 0;
    } catch (error) {
      if (!mine.signal.aborted && passes(error)) look(build, variant, backoff(failed++));
    }
  }

  return { look, stop };
}

/** An answer with the chances that sampling has found, its verdicts and sentences with them. */
export function refined(evaluation: Evaluation, sure: Uncertainty): Evaluation {
  const found = new Map(sure.cases.map((entry) => [entry.case_id, entry]));
  const cases = evaluation.cases.map((entry) => {
    const surer = found.get(entry.id);
    if (!surer) return entry;
    const { chance, verdict, sentence, detail } = surer;
    return { ...entry, chance, verdict, sentence, detail };
  });
  const { chance, verdict, answers } = sure;
  return { ...evaluation, chance, verdict, answers, cases };
}
