import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { askAhead, openedAt, takeAhead } from './ahead';

const opened = vi.hoisted(() => vi.fn());
vi.mock('./client', () => ({ openBuild: opened }));

beforeEach(() => {
  opened.mockImplementation(async (id: string) => ({ id }));
});
afterEach(() => {
  takeAhead('');
  vi.clearAllMocks();
});

it('knows which build an address opens', () => {
  expect(openedAt('/builds/a%20b/v%2Fw/stations/air')).toEqual({ id: 'a b', variant: 'v/w' });
  expect(openedAt('/builds/a')).toEqual({ id: 'a' });
  expect(openedAt('/builds/')).toBeNull();
  expect(openedAt('/shelf')).toBeNull();
  expect(openedAt('/builds/%E0%A4%A/v')).toBeNull();
});

it('asks once, and gives it to the first who wants that build', async () => {
  askAhead('/builds/a/v');
  expect(opened).toHaveBeenCalledTimes(1);
  await expect(takeAhead('a')).resolves.toEqual({ id: 'a' });
  expect(takeAhead('a')).toBeNull();
});

it('gives nobody another build, and asks for none elsewhere', () => {
  askAhead('/builds/a/v');
  expect(takeAhead('b')).toBeNull();
  expect(takeAhead('a')).toBeNull();
  askAhead('/');
  expect(opened).toHaveBeenCalledTimes(1);
});

it('lets a failure be heard by whoever takes it alone', async () => {
  opened.mockRejectedValue(new Error('away'));
  askAhead('/builds/a');
  await expect(takeAhead('a')).rejects.toThrow('away');
});
