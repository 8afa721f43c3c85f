import { cleanup, fireEvent } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Dialog } from './Dialog';

afterEach(cleanup);

function opened() {
  const onClose = vi.fn();
  const page = drawn(
    <Dialog title="Words" onClose={onClose}>
      <input aria-label="search" />
    </Dialog>,
  );
  const sheet = page.container.querySelector('dialog') as HTMLDialogElement;
  return { onClose, page, sheet };
}

describe('a sheet', () => {
  it('opens with its field ready to be typed into', () => {
    const { page, sheet } = opened();
    expect(sheet.open).toBe(true);
    expect(document.activeElement).toBe(page.getByLabelText('search'));
  });

  it('closes at once by Esc, the button, or a press beside it, and by nothing within', () => {
    const { onClose, page, sheet } = opened();
    fireEvent.keyDown(page.getByLabelText('search'), { key: 'a' });
    fireEvent.click(page.getByLabelText('search'));
    expect(onClose).not.toHaveBeenCalled();
    fireEvent.keyDown(page.getByLabelText('search'), { key: 'Escape' });
    expect(onClose).toHaveBeenCalledTimes(1);
    fireEvent.click(page.getByText('Close'));
    expect(onClose).toHaveBeenCalledTimes(2);
    fireEvent.click(sheet);
    expect(onClose).toHaveBeenCalledTimes(3);
  });

  it('leaves Esc to who writes with an input method', () => {
    const { onClose, page } = opened();
    fireEvent.keyDown(page.getByLabelText('search'), { key: 'Escape', isComposing: true });
    expect(onClose).not.toHaveBeenCalled();
  });

  it('keeps its keys from the page', () => {
    const { page } = opened();
    const bubbled = vi.fn();
    document.addEventListener('keydown', bubbled);
    fireEvent.keyDown(page.getByLabelText('search'), { key: 'w' });
    document.removeEventListener('keydown', bubbled);
    expect(bubbled).not.toHaveBeenCalled();
  });

  it('tells when the browser closes it, but no more once it is gone: its successor may be open', () => {
    const { onClose, page, sheet } = opened();
    sheet.dispatchEvent(new Event('close'));
    expect(onClose).toHaveBeenCalledTimes(1);
    page.unmount();
    sheet.dispatchEvent(new Event('close'));
    expect(onClose).toHaveBeenCalledTimes(1);
  });
});
