import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

type Stored = { revision: number; build: { name: string; variants: { radiator: object }[] } };

async function before(): Promise<Stored> {
  const found = await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`));
  const stored = (await found.json()) as Stored;
  const [first, ...others] = stored.build.variants;
  const radiator = { ...first?.radiator, depth_mm: 26 };
  return { ...stored, build: { ...stored.build, variants: [{ ...first, radiator }, ...others] } };
}

async function server(): Promise<RecordedServer> {
  const old = await before();
  const at = '2026-05-14T08:00:00Z';
  return new RecordedServer({
    ...saving(),
    [`GET /builds/${MULE}`]: async () => ({
      ...(await (
        await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`))
      ).json()),
      revision: 2,
    }),
    [`GET /builds/${MULE}/revisions`]: [
      { revision: 2, saved_at: at, revision_name: null },
      { revision: 1, saved_at: at, revision_name: 'As it came in' },
    ],
    [`GET /builds/${MULE}/revisions/1`]: { ...old, revision: 1 },
    [`PUT /builds/${MULE}/revisions/2/name`]: {
      revision: 2,
      saved_at: at,
      revision_name: 'Flushed',
    },
  });
}

const history = `/builds/${MULE}/as-found/history`;

describe('the history of a build', () => {
  it('compares a revision with what is open, field by field', async () => {
    const { screen, user } = await opened(history, await server());
    await user.click(await screen.findByRole('button', { name: 'Compare revision 1' }));
    await waitFor(() =>
      expect(said(screen.getByRole('list', { name: 'Revisions' }))).toMatch(
        /Core depth.*26 mm.*30 mm/,
      ),
    );
  });

  it('puts a revision back on top; what was there stays below', async () => {
    const recorded = await server();
    const { screen, user } = await opened(history, recorded);
    await user.click(await screen.findByRole('button', { name: 'Put back revision 1' }));
    await waitFor(() =>
      expect(JSON.stringify(recorded.sent(`PUT /builds/${MULE}`).at(-1))).toContain(
        '"depth_mm":26',
      ),
    );
  });

  it('keeps a name for a revision', async () => {
    const recorded = await server();
    const { screen, user } = await opened(history, recorded);
    const name = await screen.findByLabelText(/name of revision 2/i);
    await user.type(name, 'Flushed');
    await user.tab();
    await waitFor(() =>
      expect(recorded.sent(`PUT /builds/${MULE}/revisions/2/name`)).toHaveLength(1),
    );
    expect(JSON.stringify(recorded.sent(`PUT /builds/${MULE}/revisions/2/name`)[0])).toContain(
      'Flushed',
    );
  });

  it('says beside a name why it was not kept', async () => {
    const recorded = await server();
    recorded.own[`PUT /builds/${MULE}/revisions/2/name`] = new Refusal(422, 'It is too long.');
    const { screen, user } = await opened(history, recorded);
    await user.type(await screen.findByLabelText(/name of revision 2/i), 'Flushed');
    await user.tab();
    expect(said(await screen.findByRole('alert'))).toBe('Not kept: It is too long.');
  });
});
