/** The session of the page's first address, opened before there is anything to show it. */

import { openedAt } from '../api/ahead';
import { openSession } from './session';

let begun: { readonly id: string; readonly session: ReturnType<typeof openSession> } | null = null;

export function openAhead(pathname: string): void {
  const at = openedAt(pathname);
  if (!at) return;
  const session = openSession(at.id, at.variant);
  session.catch(() => undefined);
  begun = { id: at.id, session };
}

/** The session that was begun, to the first who wants that build; else a new one. */
export function opened(id: string, variant?: string): ReturnType<typeof openSession> {
  const found = begun;
  begun = null;
  if (found?.id === id) return found.session;
  found?.session.then((session) => session.getState().close()).catch(() => undefined);
  return openSession(id, variant);
}
