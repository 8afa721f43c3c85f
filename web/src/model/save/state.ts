/** What an opened build's session holds. */

import type { Build, Evaluation, ProblemField, Site, StoredBuild } from '../api/types';
import type { Pending } from './drafts';
import type { Further } from './further';
import type { Past } from './undo';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'away' | 'refused' | 'conflict';

export interface SessionState {
  readonly id: string;
  readonly variant: number;
  readonly revision: number;
  readonly build: Build;
  /** What is asked of the server: the document, or with another site while that is only a what-if. */
  readonly asked: Build;
  readonly whatIf: Site | null;
  readonly dirty: boolean;
  readonly savedAt: string;
  readonly saveState: SaveState;
  readonly conflict: StoredBuild | null;
  /** Why the server could not store the last save, where it said so. */
  readonly saveProblem: string | null;
  readonly kept: boolean;
  readonly restored: boolean;
  /** Text that could not be understood, by path. */
  readonly texts: Record<string, string>;
  /** What the server says of single fields. */
  readonly problems: readonly ProblemField[];
  readonly problem: string | null;
  readonly needed: boolean;
  readonly evaluation: Evaluation | null;
  /** The answer as it was before the last change, for the ladder's ghosts. */
  readonly ghost: Evaluation | null;
  /** Whether the answer belongs to the document as it stands. */
  readonly current: boolean;
  readonly serverAway: boolean;
  /** Levers, chances and the other variants, which come after the answer. */
  readonly further: Further | null;
  readonly past: Past;
  /** A save whose answer has not come: the very same is sent until it does. */
  readonly pending: Pending | null;
  readonly chooseVariant: (id: string) => void;
  /** Look at another ambient or altitude without saving it; null goes back to the document's own. */
  readonly tryAt: (site: Site | null) => void;
  /** Save the what-if as the build's site. */
  readonly keepWhatIf: () => void;
  /** Replace the document as a whole, as one step that can be undone. */
  readonly setBuild: (build: Build) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly setValue: (path: string, value: unknown) => void;
  readonly setText: (path: string, text: string) => void;
  readonly saveMine: () => Promise<void>;
  readonly takeTheirs: () => Promise<void>;
  readonly dismissRestored: () => void;
  readonly close: () => void;
}
