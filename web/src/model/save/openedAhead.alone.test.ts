import { expect, it, vi } from 'vitest';
import { openAhead, opened } from './openedAhead';

const opens = vi.hoisted(() => vi.fn());
vi.mock('./session', () => ({ openSession: opens }));

it('is done once the session is open, and gives it to the first who wants it', async () => {
  const session = { getState: () => ({ close: () => undefined }) };
  opens.mockResolvedValueOnce(session);
  await openAhead('/builds/a/v');
  expect(opens).toHaveBeenCalledWith('a', 'v');
  await expect(opened('a', 'v')).resolves.toBe(session);
  expect(opens).toHaveBeenCalledTimes(1);
});

it('holds nobody up where it cannot be opened, or not soon', async () => {
  opens.mockRejectedValueOnce(new Error('away'));
  await openAhead('/builds/a');
  await expect(opened('a')).rejects.toThrow('away');
  vi.useFakeTimers();
  opens.mockReturnValueOnce(new Promise(() => undefined));
  let done = false;
  const waiting = openAhead('/builds/a').then(() => {
    done = true;
  });
  await vi.advanceTimersByTimeAsync(50);
  expect(done).toBe(false);
  await vi.advanceTimersByTimeAsync(500);
  await waiting;
  vi.useRealTimers();
});

it('opens nothing where an address names no build', async () => {
  opens.mockClear();
  await openAhead('/shelf');
  expect(opens).not.toHaveBeenCalled();
});
