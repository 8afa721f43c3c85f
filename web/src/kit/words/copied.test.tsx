import { act, cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { CopyText } from './CopyText';
import { RefusedRows } from './RefusedRows';

describe('a text to copy', () => {
  const writeText = vi.fn();
  beforeEach(() => {
    vi.useFakeTimers();
    writeText.mockReset();
    vi.stubGlobal('navigator', { clipboard: { writeText } });
  });
  afterEach(() => {
    cleanup();
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const press = () => act(async () => fireEvent.click(screen.getByRole('button')));
  const word = () => screen.getByRole('button').textContent;

  it('is what it is when it is copied, and the button says so for a while', async () => {
    let text = 'first';
    drawn(<CopyText text={() => text} says="Copy answers" />);
    text = 'second';
    writeText.mockResolvedValue(undefined);
    await press();
    expect(writeText).toHaveBeenCalledWith('second');
    expect(word()).toBe('Copied');
    await act(async () => vi.advanceTimersByTime(2100));
    expect(word()).toBe('Copy answers');
  });

  it('says that the browser refused', async () => {
    drawn(<CopyText text={() => 'text'} says="Copy answers" />);
    writeText.mockRejectedValue(new DOMException('no', 'NotAllowedError'));
    await press();
    expect(word()).toBe('Browser refused');
  });
});

describe('rows that were refused', () => {
  afterEach(cleanup);

  it('are named by place and column, each with why', () => {
    drawn(
      <RefusedRows
        label="Not taken in"
        rows={[
          { where: 'row 3', column: 'width_mm', message: '“wide” is not a number.' },
          { where: 'row 7', column: '', message: 'It has no name.' },
        ]}
      />,
    );
    const rows = screen.getAllByRole('listitem').map((row) => row.textContent);
    expect(rows).toEqual(['Row 3, width_mm: “wide” is not a number.', 'Row 7: It has no name.']);
    expect(screen.getByRole('list', { name: 'Not taken in' })).toBeDefined();
  });
});
