import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { askAhead, buildAt, takeAhead } from './ahead';

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
  expect(buildAt('/builds/a%20b/v/stations/air')).toBe('a b');
  expect(buildAt('/builds/a')).toBe('a');
  expect(buildAt('/builds/')).toBeNull();
  expect(buildAt('/shelf')).toBeNull();
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
