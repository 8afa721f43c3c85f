import createClient from 'openapi-fetch';
import type { paths } from './schema';
import type {
  Build,
  BuildSummary,
  Curves,
  Evaluation,
  Problem,
  StoredBuild,
  Uncertainty,
} from './types';

const client = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});

/** The server answered with a problem. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The server did not answer at all. */
export class AwayError extends Error {
  constructor() {
    super('The server does not answer.');
  }
}

async function settle<T>(
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
    if (problem.status === 503) throw new AwayError();
    throw new ProblemError(problem);
  }
  throw new AwayError();
}

export function listBuilds(): Promise<BuildSummary[]> {
  return settle(client.GET('/api/v1/builds'));
}

export function openBuild(id: string): Promise<StoredBuild> {
  return settle(client.GET('/api/v1/builds/{build_id}', { params: { path: { build_id: id } } }));
}

export function createBuild(build: Build): Promise<StoredBuild> {
  return settle(client.POST('/api/v1/builds', { body: build }));
}

export function saveBuild(id: string, basedOn: number, build: Build): Promise<StoredBuild> {
  return settle(
    client.PUT('/api/v1/builds/{build_id}', {
      params: { path: { build_id: id }, header: { 'if-match': `"${basedOn}"` } },
      body: build,
    }),
  );
}

export function evaluate(
  build: Build,
  variant: string,
  signal: AbortSignal,
  levers = false,
): Promise<Evaluation> {
  return settle(
    client.POST('/api/v1/evaluate', {
      params: { query: { variant, levers } },
      body: build,
      signal,
    }),
  );
}

/** How sure the verdict on a variant is; hanging up stops it. */
export function howSure(build: Build, variant: string, signal: AbortSignal): Promise<Uncertainty> {
  return settle(
    client.POST('/api/v1/uncertainty', { params: { query: { variant } }, body: build, signal }),
  );
}

/** The build with one more variant, in which a lever has been pulled. */
export function pullLever(build: Build, variant: string, lever: string): Promise<Build> {
  return settle(
    client.POST('/api/v1/levers/{lever}', {
      params: { path: { lever }, query: { variant } },
      body: build,
    }),
  );
}

export function listRevisions(id: string): Promise<StoredBuild[]> {
  return settle(
    client.GET('/api/v1/builds/{build_id}/revisions', { params: { path: { build_id: id } } }),
  );
}

/** How one case's heat answers to its flows. */
export function readCurves(
  build: Build,
  variant: string,
  caseId: string,
  signal: AbortSignal,
): Promise<Curves> {
  return settle(
    client.POST('/api/v1/curves', {
      params: { query: { variant, case: caseId } },
      body: build,
      signal,
    }),
  );
}
