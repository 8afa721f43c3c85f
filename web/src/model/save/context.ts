import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Session } from './session';
import type { SessionState } from './state';

export const SessionContext = createContext<Session | null>(null);

/** The opened build itself, for what happens on a press. */
export function useOpened(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no build is open here');
  return session;
}

/** A part of the opened build's state. */
export function useSession<T>(pick: (state: SessionState) => T): T {
  return useStore(useOpened(), pick);
}
