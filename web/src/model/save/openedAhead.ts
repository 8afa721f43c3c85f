/** The session of the page's first address, opened before there is anything to show it. */

import { openedAt } from '../api/ahead';
import { openSession } from './session';

let begun: { readonly id: string; readonly session: ReturnType<typeof openSession> } | null = null;

/** How long the first drawing waits for a session to open: it keeps the answer from being asked for meanwhile. */
const OPEN_SOON = 120; // ms

/** Opens what an address names; done once its answer is asked for, cannot be, or will not be soon. */
export async function openAhead(pathname: string): Promise<void> {
  const at = openedAt(pathname);
  if (!at) return;
  const session = openSession(at.id, at.variant);
  begun = { id: at.id, session };
  const late = new Promise((resolve) => setTimeout(resolve, OPEN_SOON));
  await Promise.race([session.catch(() => undefined), late]);
}

/** The session that was begun, to the first who wants that build; else a new one. */
export function opened(id: string, variant?: string): ReturnType<typeof openSession> {
  const found = begun;
  begun = null;
  if (found?.id === id) return found.session;
  found?.session.then((session) => session.getState().close()).catch(() => undefined);
  return openSession(id, variant);
}
