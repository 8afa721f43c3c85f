/** An opened build with its first answer: drawn without it, nearly all is drawn twice. */

import type { Session } from './session';

/** How long an answer is waited for before the build is shown without one. */
export const ANSWERED_SOON = 250; // ms

/** The session once its first answer, or why there is none, is known; or it will not be soon. */
export function withFirstAnswer(session: Session): Promise<Session> {
  const known = () => {
    const { evaluation, needed, problem, serverAway } = session.getState();
    return evaluation !== null || needed || problem !== null || serverAway;
  };
  return new Promise((resolve) => {
    const stop = session.subscribe(() => known() && done());
    const late = setTimeout(() => done(), ANSWERED_SOON);
    function done() {
      stop();
      clearTimeout(late);
      resolve(session);
    }
    if (known()) done();
  });
}
