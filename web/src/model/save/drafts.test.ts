import { beforeEach, describe, expect, it } from 'vitest';
import { backoff } from '../api/backoff';
import { newBuild } from '../document/newBuild';
import { findDraft, keepDraft, tabName } from './drafts';

const draft = { base: 3, build: newBuild('Kept', ''), dirty: true, texts: {}, at: 1 };

describe('drafts', () => {
  beforeEach(() => localStorage.clear());

  it('are found again by their tab, with a version', async () => {
    const tab = await tabName();
    expect(keepDraft('b', draft)).toBe(true);
    const kept = JSON.parse(localStorage.getItem(`ebbrin.draft.b.${tab}`) ?? '');
    expect(kept.version).toBe(1);
    expect(await findDraft('b')).toMatchObject(draft);
  });

  it('of before, which say no version, are read', async () => {
    localStorage.setItem(`ebbrin.draft.b.${await tabName()}`, JSON.stringify(draft));
    expect(await findDraft('b')).toMatchObject(draft);
  });

  it.each([
    ['of a newer page', { ...draft, version: 2 }],
    ['without a build', { ...draft, build: null }],
    ['whose build is none', { ...draft, build: { variants: [] } }],
    ['that are text', 'hello'],
  ])('%s are left where they are', async (_, kept) => {
    const key = `ebbrin.draft.b.${await tabName()}`;
    localStorage.setItem(key, JSON.stringify(kept));
    expect(await findDraft('b')).toBeNull();
    expect(localStorage.getItem(key)).toBe(JSON.stringify(kept));
  });
});

describe('asking a server again that was away', () => {
  it('waits twice as long each time, half a minute at most, and not all at once', () => {
    expect([0, 1, 2, 3].map((n) => backoff(n, 0.5))).toEqual([1000, 2000, 4000, 8000]);
    expect(backoff(20, 0.5)).toBe(30_000);
    expect(backoff(0, 0)).toBe(750);
    expect(backoff(0, 1)).toBe(1250);
  });
});
