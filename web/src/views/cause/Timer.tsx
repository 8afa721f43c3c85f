import { useState } from 'react';
import { Button, Row, Words } from '../../kit/primitives';
import { clock, useSince } from '../../kit/steps/clock';
import { counted } from '../../model/words/counted';

const keyOf = (name: string) => `ebbrin.timer.${name}`;

function begun(name: string): string | null {
  const at = Number(localStorage.getItem(keyOf(name)));
  return Number.isFinite(at) && at > 0 ? new Date(at).toISOString() : null;
}

/** A timer for tests in which time counts, counting down and then over. */
export function Timer({ name, minutes }: { readonly name: string; readonly minutes: number }) {
  const [startedAt, setStartedAt] = useState(() => begun(name));
  const since = useSince(startedAt);
  function start() {
    const at = Date.now();
    try {
      localStorage.setItem(keyOf(name), String(at));
    } catch {
      // It runs as long as this page is open.
    }
    setStartedAt(new Date(at).toISOString());
  }
  function stop() {
    localStorage.removeItem(keyOf(name));
    setStartedAt(null);
  }
  if (since === null)
    return (
      <Button marginBlock="2" onClick={start}>
        Start {counted(minutes, 'minute', 'minutes')}
      </Button>
    );
  const left = Math.ceil(minutes * 60 - since);
  return (
    <Row role="timer" gap="3" marginBlock="2">
      <Words size="huge" tone={left <= 0 ? 'holds' : 'ink'}>
        {clock(Math.abs(left))}
      </Words>
      <Words size="small" tone="quiet">
        {left > 0 ? 'to go' : 'over time: read it now'}
      </Words>
      <Button look="bare" onClick={stop}>
        stop
      </Button>
    </Row>
  );
}
