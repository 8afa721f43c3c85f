import { act, cleanup, fireEvent } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { forgetTimer, Timer } from './Timer';

const BEGUN = Date.parse('2026-05-14T09:00:00Z');
const pass = (seconds: number) => act(() => vi.advanceTimersByTime(seconds * 1000));

beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers({ now: BEGUN });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  localStorage.clear();
});

describe('a timer of a test', () => {
  it('counts down, and then over', () => {
    const shown = drawn(<Timer name="hold" minutes={30} />);
    fireEvent.click(shown.getByRole('button', { name: 'Start 30 minutes' }));
    pass(60);
    expect(shown.getByRole('timer').textContent).toContain('29:00to go');
    pass(29 * 60 + 5);
    expect(shown.getByRole('timer').textContent).toContain('00:05over time: read it now');
  });

  it('goes on by the clock when the page comes back, each by its own name', () => {
    const first = drawn(<Timer name="hold" minutes={30} />);
    fireEvent.click(first.getByRole('button'));
    cleanup();
    vi.setSystemTime(BEGUN + 10 * 60_000);
    const again = drawn(<Timer name="hold" minutes={30} />);
    expect(again.getByRole('timer').textContent).toContain('20:00');
    cleanup();
    const other = drawn(<Timer name="idle" minutes={5} />);
    expect(other.queryByRole('timer')).toBeNull();
  });

  it('is not that of another day, nor of a test that was answered', () => {
    const begin = () => {
      fireEvent.click(drawn(<Timer name="hold" minutes={30} />).getByRole('button'));
      cleanup();
    };
    begin();
    vi.setSystemTime(BEGUN + 25 * 3_600_000);
    expect(drawn(<Timer name="hold" minutes={30} />).queryByRole('timer')).toBeNull();
    cleanup();
    begin();
    forgetTimer('hold');
    expect(drawn(<Timer name="hold" minutes={30} />).queryByRole('timer')).toBeNull();
  });

  it('stops, and is forgotten', () => {
    const shown = drawn(<Timer name="hold" minutes={30} />);
    fireEvent.click(shown.getByRole('button'));
    fireEvent.click(shown.getByRole('button', { name: 'stop' }));
    expect(shown.getByRole('button', { name: 'Start 30 minutes' })).toBeDefined();
    expect(localStorage.length).toBe(0);
  });

  it('runs without a place to be kept in', () => {
    for (const way of ['getItem', 'setItem', 'removeItem'] as const)
      vi.spyOn(Storage.prototype, way).mockImplementation(() => {
        throw new DOMException('not here', 'SecurityError');
      });
    const shown = drawn(<Timer name="hold" minutes={1} />);
    fireEvent.click(shown.getByRole('button'));
    pass(30);
    expect(shown.getByRole('timer').textContent).toContain('00:30');
    fireEvent.click(shown.getByRole('button', { name: 'stop' }));
    expect(shown.queryByRole('timer')).toBeNull();
  });
});
