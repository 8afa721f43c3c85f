import { Button, Notice, Words } from '../kit/primitives';
import { useSession } from '../model/save/context';
import { counted } from '../model/words/counted';

/** What the person must know about saving and the answer shown, in one calm place. */
export function Notices({
  refused,
  onSeen,
}: {
  /** Why a command was not carried out. */
  readonly refused: string | null;
  readonly onSeen: () => void;
}) {
  const saveState = useSession((s) => s.saveState);
  const away = useSession((s) => s.serverAway);
  const conflict = useSession((s) => s.conflict);
  const saveProblem = useSession((s) => s.saveProblem);
  const revision = useSession((s) => s.revision);
  const restored = useSession((s) => s.restored);
  const kept = useSession((s) => s.kept);
  const texts = useSession((s) => Object.keys(s.texts).length);
  const problem = useSession((s) => s.problem);
  const answered = useSession((s) => s.evaluation !== null);
  const saveMine = useSession((s) => s.saveMine);
  const takeTheirs = useSession((s) => s.takeTheirs);
  const dismiss = useSession((s) => s.dismissRestored);
  return (
    <div aria-live="polite">
      {conflict && (
        <Notice kind="tight">
          <Words>
            Revision {conflict.revision} was saved elsewhere while you edited revision {revision}.
            Nothing is lost: both stay in the history, whichever you go on with.
          </Words>
          <Button onClick={() => void saveMine()}>Go on with mine</Button>
          <Button onClick={() => void takeTheirs()}>Go on with theirs</Button>
        </Notice>
      )}
      {away && !conflict && (
        <Notice kind="tight">
          <Words>
            The server does not answer.{' '}
            {kept
              ? 'Your edits are kept in this browser and saved when it is back.'
              : 'This browser keeps nothing either: leave this page open.'}
          </Words>
        </Notice>
      )}
      {saveProblem && (
        <Notice kind="fails">
          <Words>
            Not saved yet{kept ? ', but kept in this browser' : ''}: {saveProblem} It is tried again
            by itself.
          </Words>
        </Notice>
      )}
      {saveState === 'refused' && (
        <Notice kind="fails">
          <Words>
            Not saved yet, but kept in this browser: {problem ?? 'a value cannot be used.'} See the
            marked field.
          </Words>
        </Notice>
      )}
      {answered && (texts > 0 || problem) && (
        <Notice kind="tight">
          <Words>
            {texts > 0
              ? `${counted(texts, 'field', 'fields')} cannot be read yet; what is shown is the last valid result.`
              : `What is shown is the last valid result: ${problem}`}
          </Words>
        </Notice>
      )}
      {refused && (
        <Notice kind="tight">
          <Words>{refused}</Words>
          <Button look="bare" onClick={onSeen}>
            Good
          </Button>
        </Notice>
      )}
      {restored && (
        <Notice>
          <Words>Edits from before were found in this browser and are here again.</Words>
          <Button look="bare" onClick={dismiss}>
            Good
          </Button>
        </Notice>
      )}
    </div>
  );
}
