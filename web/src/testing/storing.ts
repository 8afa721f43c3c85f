/** For tests of an opened build: the build, and a server that stores it. */

import type { Build, StoredBuild } from '../model/api/types';

/** A build of one variant that can be judged. */
export const build = {
  name: 'b',
  cases: [{ id: 'one', name: 'one' }],
  variants: [
    {
      id: 'v',
      name: 'v',
      engine: { displacement_l: 2, rated_power_kw: 90 },
      radiator: { width_mm: 500, height_mm: 400, depth_mm: 30 },
    },
  ],
} as unknown as Build;
export const LEVER = { name: 'ram', text: ['More ram'], cases: [] };

type Answer = { status: number; body: unknown } | 'away';

/** A server whose next answers a test decides. */
export class StoringServer {
  stored: StoredBuild = {
    id: 'x',
    revision: 1,
    saved_at: '2026-01-01T00:00:00Z',
    revision_name: null,
    build,
  };
  evaluate: Answer = { status: 200, body: { variant_id: 'v', cases: [], assumed: [] } };
  /** How sure every verdict is. */
  sure: object = { variant_id: 'v', cases: [] };
  /** Whether what is asked to be judged gets no answer at all. */
  silent = false;
  /** A variant that it does not judge. */
  refused: { id: string; status: number } | null = null;
  save: Answer | null = null;
  readonly saved: { basedOn: string | null; build: Build }[] = [];
  evaluated = 0;
  /** The widths that it was asked to judge. */
  readonly judged: unknown[] = [];
  /** How long a save takes, ms. */
  delay = 0;

  readonly fetch = async (request: Request): Promise<Response> => {
    if (request.url.includes('/uncertainty')) {
      return this.answer({ status: 200, body: this.sure });
    }
    if (request.url.includes('/evaluate')) {
      const levers = request.url.includes('levers=true');
      if (!levers) {
        this.evaluated += 1;
        this.judged.push(((await request.clone().json()) as Build).variants[0]?.radiator?.width_mm);
      }
      if (this.silent) return new Promise(() => undefined);
      if (this.refused && request.url.includes(`variant=${this.refused.id}`)) {
        const { status } = this.refused;
        return this.answer({ status, body: { status, detail: 'refused' } });
      }
      const body = { ...(this.evaluate as { body: object }).body, levers: levers ? [LEVER] : [] };
      return this.answer(this.evaluate === 'away' ? 'away' : { ...this.evaluate, body });
    }
    if (request.method === 'GET') return this.answer({ status: 200, body: this.stored });
    const sent = (await request.json()) as Build;
    this.saved.push({ basedOn: request.headers.get('if-match'), build: sent });
    if (this.delay) await new Promise((done) => setTimeout(done, this.delay));
    if (this.save) return this.answer(this.save);
    this.stored = { ...this.stored, revision: this.stored.revision + 1, build: sent };
    return this.answer({ status: 200, body: this.stored });
  };

  private answer(answer: Answer): Response {
    if (answer === 'away') throw new TypeError('Failed to fetch');
    return new Response(JSON.stringify(answer.body), {
      status: answer.status,
      headers: { 'Content-Type': 'application/json' },
    });
  }
}
