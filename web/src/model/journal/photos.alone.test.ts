import { beforeEach, describe, expect, it, vi } from 'vitest';

const kept = new Map<string, unknown>();
vi.mock('idb-keyval', () => ({
  createStore: () => () => Promise.resolve(),
  get: (key: string) => Promise.resolve(kept.get(key)),
  set: (key: string, value: unknown) => Promise.resolve(kept.set(key, value)),
  del: (key: string) => Promise.resolve(kept.delete(key)),
}));
const server = vi.hoisted(() => ({ sendPhoto: vi.fn() }));
vi.mock('../api/fit', async (original) => ({
  ...(await original<typeof import('../api/fit')>()),
  ...server,
}));

import { AwayError, ProblemError } from '../api/transport';
import { keepPhoto, sendPhotos } from './photos';

const problem = (status: number) =>
  new ProblemError({ type: 'x', title: '', status, detail: 'no', errors: [] });

describe('photos that wait', () => {
  beforeEach(() => {
    kept.clear();
    server.sendPhoto.mockReset().mockResolvedValue(true);
  });

  it('are let go once the server has them', async () => {
    await keepPhoto('a', new Blob(['x']));
    await sendPhotos('build', ['a', 'never taken here']);
    expect(server.sendPhoto).toHaveBeenCalledOnce();
    expect(kept.size).toBe(0);
  });

  it('stay while it is away', async () => {
    await keepPhoto('a', new Blob(['x']));
    server.sendPhoto.mockRejectedValueOnce(new AwayError());
    await expect(sendPhotos('build', ['a'])).rejects.toThrow(AwayError);
    expect(kept.size).toBe(1);
  });

  it('keep nothing back where one is refused', async () => {
    await keepPhoto('a', new Blob(['x']));
    await keepPhoto('b', new Blob(['y']));
    server.sendPhoto.mockRejectedValueOnce(problem(422));
    await sendPhotos('build', ['a', 'b']);
    expect([...kept.keys()]).toEqual(['a']);
  });
});
