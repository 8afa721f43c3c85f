import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, said } from '../../testing/page';

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
