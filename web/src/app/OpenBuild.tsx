import { useEffect, useState } from 'react';
import { Navigate, Outlet, useParams, useSearchParams } from 'react-router';
import { Brand } from '../kit/page/Brand';
import { Box, Button, Paragraph, Title } from '../kit/primitives';
import { AwayError, ProblemError } from '../model/api/transport';
import type { UnreadableProblem } from '../model/api/types';
import { addressOf, placeOfBefore } from '../model/places';
import { SessionContext, useSession } from '../model/save/context';
import { withFirstAnswer } from '../model/save/firstAnswer';
import { opened as opening } from '../model/save/openedAhead';
import type { Session } from '../model/save/session';
import { Mend } from '../views/describe/Mend';

/** Opens the build of the address for all that is shown of it; nothing of one is ever shown at the address of another. */
export function OpenBuild() {
  const { id = '' } = useParams();
  return <Opening key={id} id={id} />;
}

function Opening({ id }: { id: string }) {
  const { variant } = useParams();
  const [session, setSession] = useState<Session | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [unreadable, setUnreadable] = useState<UnreadableProblem | null>(null);
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further attempt opens again; the variant is followed below
  useEffect(() => {
    let opened: Session | null = null;
    let gone = false;
    setFailure(null);
    setUnreadable(null);
    opening(id, variant)
      .then(withFirstAnswer)
      .then(
        (found) => {
          if (gone) return found.getState().close();
          opened = found;
          setSession(found);
        },
        (error) => {
          if (gone) return;
          if (error instanceof ProblemError && error.problem.type === 'urn:ebbrin:unreadable')
            setUnreadable(error.problem as UnreadableProblem);
          else
            setFailure(
              error instanceof AwayError
                ? 'The server does not answer. Is it running? Start it with ./start; what you typed is kept in this browser.'
                : String(error.message),
            );
        },
      );
    return () => {
      gone = true;
      opened?.getState().close();
      setSession(null);
    };
  }, [id, attempt]);

  if (unreadable) {
    return <Mend id={id} problem={unreadable} onMended={() => setAttempt(attempt + 1)} />;
  }
  if (failure) {
    return (
      <Box as="main" padding="8">
        <Brand />
        <Title marginTop="4">This build cannot be opened</Title>
        <Paragraph marginBlock="3">{failure}</Paragraph>
        <Button look="main" onClick={() => setAttempt(attempt + 1)}>
          Try again
        </Button>
      </Box>
    );
  }
  if (!session) {
    return (
      <Box as="main" padding="8" aria-busy="true">
        <Brand />
        <Paragraph marginTop="4">Opening…</Paragraph>
      </Box>
    );
  }
  return (
    <SessionContext.Provider value={session}>
      <Outlet />
    </SessionContext.Provider>
  );
}

/** An address without a variant leads to the first, and one of before to where its query says. */
export function ToVariant() {
  const [search] = useSearchParams();
  const id = useSession((s) => s.id);
  const build = useSession((s) => s.build);
  const wanted = build.variants.find((entry) => entry.id === search.get('variant'));
  const variant = (wanted ?? build.variants[0])?.id ?? '';
  const place = placeOfBefore(search);
  return <Navigate replace to={addressOf({ id, variant, place, caseId: search.get('case') })} />;
}
