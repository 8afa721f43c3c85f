import { useEffect, useState } from 'react';
import { HiddenText } from '../kit/primitives';
import { useSession } from '../model/save/context';
import { inDays } from '../model/words/days';

const SETTLED = 1200; // ms without a change until it is said

/** Says a changed verdict to who does not see it; the same one is not said again. */
export function Announced() {
  const now = useSession((s) => {
    const variant = s.build.variants[s.variant];
    return s.evaluation && s.current && variant
      ? `${variant.name} ${s.evaluation.verdict}, ${inDays(s.evaluation.chance)}.`
      : null;
  });
  const [said, setSaid] = useState('');
  useEffect(() => {
    if (now === null) return;
    const timer = setTimeout(() => setSaid(now), SETTLED);
    return () => clearTimeout(timer);
  }, [now]);
  return (
    <HiddenText role="status" aria-label="Verdict">
      {said}
    </HiddenText>
  );
}
