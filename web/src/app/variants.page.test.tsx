import { act, cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, said, saving } from '../testing/page';

afterEach(cleanup);

const build = `/builds/${MULE}`;
type Saved = { variants: { id: string; name: string }[] };
const names = (server: RecordedServer) =>
  (server.sent(`PUT /builds/${MULE}`).at(-1) as Saved | undefined)?.variants.map((one) => one.name);
// A copy is judged as what it was copied from.
const judged = async () => {
  const found = await new RecordedServer().fetch(
    new Request('http://x/api/v1/evaluate?variant=as-found&levers=false', { method: 'POST' }),
  );
  return found.json();
};

describe('variants of a build', () => {
  it('stand side by side with their verdicts, and one is shown', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    const variants = await screen.findByRole('region', { name: 'Variants' });
    const pressed = () =>
      within(variants)
        .getAllByRole('button')
        .filter((one) => one.getAttribute('aria-pressed') === 'true')
        .map(said);
    expect(pressed()).toEqual(['As found']);
    await user.click(within(variants).getByText('Bigger core'));
    await waitFor(() => expect(location.pathname).toBe(`${build}/core`));
    expect(pressed()).toEqual(['Bigger core']);
  });

  it('are copied under a name that is typed at once, and removed', async () => {
    const own = { ...saving(), 'POST /evaluate?variant=as-found-2&levers=false': judged };
    const { screen, user, server } = await opened(`${build}/as-found`, new RecordedServer(own));
    await user.click(await screen.findByRole('button', { name: 'Duplicate' }));
    const variants = screen.getByRole('region', { name: 'Variants' });
    const name = await within(variants).findByRole('textbox');
    await user.clear(name);
    await user.type(name, 'Second try{Enter}');
    await waitFor(() => expect(names(server)).toContain('Second try'));
    expect(names(server)).toContain('As found');
    expect(names(server)).toHaveLength(4);
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    await waitFor(() =>
      expect(names(server)).toEqual(['As found', 'Bigger core', 'Bigger core and fans']),
    );
    await waitFor(() => expect(location.pathname).toBe(`${build}/as-found`));
    // An address that is drawn late names one that is gone again: what is shown stays.
    act(() => {
      history.pushState(null, '', `${build}/as-found-2`);
      dispatchEvent(new PopStateEvent('popstate'));
    });
    await waitFor(() => expect(location.pathname).toBe(`${build}/as-found`));
    expect(screen.queryByText(/has no variant/)).toBeNull();
  });
});

describe('sheets over the page', () => {
  it('choose a unit for one quantity alone', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    await screen.findByRole('region', { name: 'Four answers' });
    await user.keyboard('u');
    const sheet = await screen.findByRole('dialog', { name: 'Units' });
    await user.selectOptions(within(sheet).getByLabelText('pressure'), 'psi');
    await waitFor(() =>
      expect(said(screen.getByRole('region', { name: 'Four answers' }))).toContain('14.9 psi'),
    );
    await user.selectOptions(within(sheet).getByLabelText('Set'), 'metric');
    expect(said(screen.getByRole('region', { name: 'Four answers' }))).toContain('103 kPa');
  });

  it('list every key, and can switch single letters off', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    await screen.findByRole('region', { name: 'Four answers' });
    await user.keyboard('?');
    const sheet = await screen.findByRole('dialog', { name: 'Keys' });
    const switched = within(sheet).getByRole('checkbox', { name: 'Single letters are commands' });
    expect((switched as HTMLInputElement).checked).toBe(true);
    expect(within(sheet).getByText('Ctrl+K')).toBeDefined();
    await user.click(switched);
    expect((switched as HTMLInputElement).checked).toBe(false);
    await user.click(switched);
  });
});
