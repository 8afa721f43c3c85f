/** The build of the page's first address, asked for while the page's own files are still on their way. */

import { openBuild } from './client';
import type { StoredBuild } from './types';

let asked: { readonly id: string; readonly build: Promise<StoredBuild> } | null = null;

/** Which build an address opens; null where it opens none. */
export function buildAt(pathname: string): string | null {
  const [, builds, id] = pathname.split('/');
  return builds === 'builds' && id ? decodeURIComponent(id) : null;
}

/** Asks for the build of an address, if it opens one. */
export function askAhead(pathname: string): boolean {
  const id = buildAt(pathname);
  if (!id) return false;
  const build = openBuild(id);
  // Whoever takes it hears of a failure; nobody need.
  build.catch(() => undefined);
  asked = { id, build };
  return true;
}

/** What was asked ahead, to the first who wants it: later it would be old. */
export function takeAhead(id: string): Promise<StoredBuild> | null {
  const found = asked?.id === id ? asked.build : null;
  asked = null;
  return found;
}
