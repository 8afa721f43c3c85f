import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

describe('variants side by side', () => {
  it('has a column each, every case with its verdict, and what differs', async () => {
    const { screen } = await opened(`/builds/${MULE}/as-found/compare`);
    const view = await screen.findByRole('region', { name: 'Variants side by side' });
    await waitFor(() => expect(said(view)).not.toContain('…'));
    const heads = within(view).getAllByRole('columnheader').map(said);
    expect(heads).toEqual(['Case', '1 As found', '2 Bigger core', '3 Bigger core and fans']);
    const pass = within(view)
      .getAllByRole('row')
      .find((row) => row.textContent?.startsWith('The pass'));
    expect(said(pass)).toContain('never settles');
    expect(said(pass)).toContain('holds');
    const width = within(view)
      .getAllByRole('row')
      .find((row) => row.textContent?.startsWith('Core width'));
    expect(
      within(width as HTMLElement)
        .getAllByRole('cell')
        .map(said),
    ).toEqual(['Core width', '650 mm', '720 mm', '720 mm']);
    expect(said(view)).not.toContain('To mind');
  });

  it('says what is warned of in each, and what is only noted in none', async () => {
    const asks = 'POST /evaluate?variant=core&levers=false';
    const { findings, ...rest } = recorded[asks];
    const warning = { ...findings[0], kind: 'warning', text: ['It wears its tubes.'] };
    const server = new RecordedServer({ [asks]: { ...rest, findings: [...findings, warning] } });
    const { screen } = await opened(`/builds/${MULE}/as-found/compare`, server);
    const view = await screen.findByRole('region', { name: 'Variants side by side' });
    await waitFor(() => expect(said(view)).toContain('To mind'));
    const mind = within(view)
      .getAllByRole('row')
      .find((row) => row.textContent?.startsWith('To mind'));
    const cells = within(mind as HTMLElement).getAllByRole('cell');
    expect(cells.map(said)).toEqual(['To mind', '', 'It wears its tubes.', '']);
  });
});

describe('a variant that cannot be judged', () => {
  it('says why beside the others, which stand as they are', async () => {
    const plain = new RecordedServer();
    const found = await plain.fetch(new Request(`http://x/api/v1/builds/${MULE}`));
    const stored = await found.json();
    const [, second] = stored.build.variants;
    second.engine.rated_power_kw = null;
    second.cap.from_shelf = { id: 'cap-90', version: 1 };
    const server = new RecordedServer({
      [`GET /builds/${MULE}`]: stored,
      [`POST /evaluate?variant=${second.id}&levers=false`]: new Refusal(
        422,
        'Rated power is needed for an answer.',
      ),
    });
    const { screen } = await opened(`/builds/${MULE}/as-found/compare`, server);
    const view = await screen.findByRole('region', { name: 'Variants side by side' });
    await waitFor(() => expect(said(view)).not.toContain('…'));
    expect(said(view)).toContain('not judged yet');
    expect(said(view)).toContain(
      'Bigger core is not judged yet. Rated power is needed for an answer.',
    );
    expect(said(view)).toContain('cap-90, version 1');
    expect(said(view)).not.toContain('[object');
  });
});

describe('the history of a build', () => {
  it('lists its revisions, the newest first, with a place for a name', async () => {
    const { screen } = await opened(`/builds/${MULE}/as-found/history`);
    const back = await screen.findByRole('button', { name: 'Put back revision 1' });
    expect((back as HTMLButtonElement).disabled).toBe(true); // it is the one that is open
    expect(await screen.findByRole('heading', { name: /History/ })).toBeDefined();
  });
});
