/** How the server is asked, and what went wrong where it does not answer as hoped. */

import createClient from 'openapi-fetch';
import type { paths } from './schema';
import type { Problem } from './types';

export const client = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});

/** The server answered with a problem. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** Why something was not answered: what is wrong with its values where that is known. */
export function reasonOf(error: Error): string {
  const wrong = error instanceof ProblemError ? (error.problem.errors ?? []) : [];
  return wrong.length > 0 ? wrong.map((one) => one.message).join(' ') : error.message;
}

/** The server did not answer at all. */
export class AwayError extends Error {
  constructor() {
    super('The server does not answer.');
  }
}

/** Ends a question that gets no answer at all: the server counts as away. */
export const patience = () => AbortSignal.timeout(60_000);

export async function settle<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await request;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new AwayError();
  }
  if (answer.data !== undefined) return answer.data;
  const problem = answer.error as Problem | undefined;
  if (problem && typeof problem === 'object' && 'detail' in problem) {
    if (problem.type === 'urn:ebbrin:no-database') throw new AwayError();
    throw new ProblemError(problem);
  }
  throw new AwayError();
}

/** Whether something was let go; a problem is thrown. */
export async function gone(
  request: Promise<{ error?: unknown; response: Response }>,
): Promise<true> {
  return settle(
    request.then((answer) => ({
      ...answer,
      data: answer.response.ok ? (true as const) : undefined,
    })),
  );
}
