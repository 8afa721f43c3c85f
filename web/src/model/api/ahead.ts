/** The build of the page's first address, asked for while the page's own files are still on their way. */

import { openBuild } from './client';
import type { StoredBuild } from './types';

let asked: { readonly id: string; readonly build: Promise<StoredBuild> } | null = null;

/** Which build an address opens, and at which variant if it says so; null where it opens none, or cannot be read. */
export function openedAt(pathname: string): { id: string; variant?: string } | null {
  const [, builds, id, variant] = pathname.split('/');
  if (builds !== 'builds' || !id) return null;
  try {
    return {
      id: decodeURIComponent(id),
      ...(variant && { variant: decodeURIComponent(variant) }),
    };
  } catch {
    return null; // a percent sign that begins nothing: the page itself says that there is no such build
  }
}

/** Asks for the build of an address, if it opens one. */
export function askAhead(pathname: string): boolean {
  const id = openedAt(pathname)?.id;
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
