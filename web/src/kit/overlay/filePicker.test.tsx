import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { FilePicker } from './FilePicker';

afterEach(cleanup);

function picker() {
  const onFile = vi.fn();
  drawn(
    <FilePicker label="Shelf file" accept=".csv" onFile={onFile}>
      Open a file…
    </FilePicker>,
  );
  return { onFile, input: screen.getByLabelText('Shelf file') as HTMLInputElement };
}
const file = (name: string, text = 'a,b') => new File([text], name, { type: 'text/csv' });

it('gives the file that was chosen, and the same one again after it was mended', async () => {
  const { onFile, input } = picker();
  const user = userEvent.setup();
  await user.upload(input, file('parts.csv'));
  await waitFor(() => expect(onFile).toHaveBeenCalledTimes(1));
  await user.upload(input, file('parts.csv', 'a,b,c'));
  await waitFor(() => expect(onFile).toHaveBeenCalledTimes(2));
  expect(onFile.mock.calls.map(([one]) => [one.name, one.size])).toEqual([
    ['parts.csv', 3],
    ['parts.csv', 5],
  ]);
});

it('opens by a button that says what it is for', () => {
  picker();
  expect(screen.getByRole('button', { name: 'Open a file…' })).toBeDefined();
});
