import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { ErrorBoundary } from './ErrorBoundary';
import { Fold } from './Fold';
import { useKeys } from './keys';
import { SkipLink } from './SkipLink';

afterEach(cleanup);

function Broken({ why }: { readonly why: string | null }) {
  if (why) throw new Error(why);
  return <p>drawn</p>;
}
const page = (at: string, why: string | null) => (
  <>
    <ErrorBoundary at={at}>
      <Broken why={why} />
    </ErrorBoundary>
    <p>the rest</p>
  </>
);

describe('a view that cannot be drawn', () => {
  // React writes every caught error to the console.
  beforeEach(() => void vi.spyOn(console, 'error').mockImplementation(() => undefined));
  afterEach(() => vi.restoreAllMocks());

  it('says what went wrong, and the rest of the page goes on', () => {
    drawn(page('/a', 'no such quantity'));
    expect(screen.getByRole('alert').textContent).toContain(
      'Ebbrin made a mistake here: no such quantity What you typed is kept.',
    );
    expect(screen.getByText('the rest')).toBeDefined();
    expect(screen.getByRole('button', { name: 'Load the page again' })).toBeDefined();
  });

  it('tells a part that could not be loaded from a mistake', () => {
    drawn(page('/a', 'Failed to fetch dynamically imported module: /assets/x.js'));
    expect(screen.getByRole('alert').textContent).toContain('a newer Ebbrin has taken its place');
    expect(screen.getByRole('alert').textContent).not.toContain('mistake');
  });

  it('stays at its address, and another is tried afresh', () => {
    const { rerender } = drawn(page('/a', 'broken'));
    rerender(page('/a', null));
    expect(screen.getByRole('alert')).toBeDefined();
    rerender(page('/b', null));
    expect(screen.queryByRole('alert')).toBeNull();
    expect(screen.getByText('drawn')).toBeDefined();
  });
});

describe('what the page is about', () => {
  const view = (at: string) => (
    <>
      <SkipLink at={at} />
      <main id="main" tabIndex={-1}>
        {at === '/a' ? <button type="button">a</button> : <p>b</p>}
      </main>
      <button type="button">outside</button>
    </>
  );

  it('has the keys where what had the focus has gone with its view, and not before', () => {
    drawn(view('/a'));
    cleanup();
    const { rerender } = drawn(view('/a')); // as a page that is loaded again
    expect(document.activeElement).toBe(document.body);
    screen.getByRole('button', { name: 'a' }).focus();
    rerender(view('/b'));
    expect(document.activeElement).toBe(screen.getByRole('main'));
    screen.getByRole('button', { name: 'outside' }).focus();
    rerender(view('/a'));
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'outside' }));
  });
});

describe('single letters as commands', () => {
  afterEach(() => {
    vi.unstubAllGlobals();
    useKeys.setState({ single: true });
  });

  it('are switched off and on, and that is kept', () => {
    useKeys.getState().turn();
    expect([useKeys.getState().single, localStorage.getItem('ebbrin-single-keys')]).toEqual([
      false,
      'off',
    ]);
    useKeys.getState().turn();
    expect([useKeys.getState().single, localStorage.getItem('ebbrin-single-keys')]).toEqual([
      true,
      'on',
    ]);
  });

  it('are switched off until the page is left where nothing can be kept', () => {
    vi.stubGlobal('localStorage', {
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError');
      },
    });
    useKeys.getState().turn();
    expect(useKeys.getState().single).toBe(false);
  });
});

describe('what folds open', () => {
  it('draws what lies in it once it is opened, and keeps it drawn', async () => {
    drawn(
      <Fold title="more">
        <Fold title="and more">
          <p>at the bottom</p>
        </Fold>
      </Fold>,
    );
    const folds = () => [...document.querySelectorAll('details')];
    expect(folds()).toHaveLength(1);
    await userEvent.click(screen.getByText('more'));
    await waitFor(() => expect(folds()).toHaveLength(2));
    expect(screen.queryByText('at the bottom')).toBeNull();
    await userEvent.click(screen.getByText('and more'));
    expect(await screen.findByText('at the bottom')).toBeDefined();
    await userEvent.click(screen.getByText('more'));
    await waitFor(() => expect(folds()[0]?.open).toBe(false));
    expect(screen.getByText('at the bottom')).toBeDefined();
  });
});
