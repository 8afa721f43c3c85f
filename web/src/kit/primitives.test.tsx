import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { drawn } from '../testing/drawn';
import { Button, Input } from './primitives';

afterEach(cleanup);

function Once({ onPress }: { readonly onPress: () => void }) {
  const [done, setDone] = useState(false);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onPress();
        setDone(true);
      }}
    >
      <Input aria-label="what" />
      <Button type="submit" disabled={done}>
        Do it
      </Button>
    </form>
  );
}

it('keeps the focus once it cannot be pressed any more, and is pressed no second time', async () => {
  const pressed = vi.fn();
  drawn(<Once onPress={pressed} />);
  const user = userEvent.setup();
  const button = screen.getByRole('button', { name: 'Do it' }) as HTMLButtonElement;
  button.focus();
  await user.keyboard('{Enter}');
  expect(pressed).toHaveBeenCalledTimes(1);
  expect(document.activeElement).toBe(button);
  expect(button.getAttribute('aria-disabled')).toBe('true');
  await user.keyboard('{Enter} ');
  await user.type(screen.getByLabelText('what'), '{Enter}');
  expect(pressed).toHaveBeenCalledTimes(1);
  // Left alone it is no stop of the tabulator.
  expect(button.disabled).toBe(true);
  await user.tab();
  expect(document.activeElement).not.toBe(button);
});

it('sends a form only where it says so', async () => {
  const sent = vi.fn((event: { preventDefault: () => void }) => event.preventDefault());
  const pressed = vi.fn();
  drawn(
    <form onSubmit={sent}>
      <Button onClick={pressed}>Never mind</Button>
      <Button disabled={false} onClick={pressed}>
        Look
      </Button>
      <Button type="submit">Send</Button>
    </form>,
  );
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'Never mind' }));
  await user.click(screen.getByRole('button', { name: 'Look' }));
  expect(pressed).toHaveBeenCalledTimes(2);
  expect(sent).not.toHaveBeenCalled();
  await user.click(screen.getByRole('button', { name: 'Send' }));
  expect(sent).toHaveBeenCalledTimes(1);
});
