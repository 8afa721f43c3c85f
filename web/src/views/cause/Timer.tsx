import { useState } from 'react';
import { Button, Row, Words } from '../../kit/primitives';
import { clock, useSince } from '../../kit/steps/clock';
import { counted } from '../../model/words/counted';

const keyOf = (name: string) => `ebbrin.timer.${name}`;

/** What was started before belongs to another day's work. */
const FORGOTTEN_AFTER = 86_400_000; // ms

function read(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

function begun(name: string): string | null {
  const at = Number(read(keyOf(name)));
  return at > Date.now() - FORGOTTEN_AFTER ? new Date(at).toISOString() : null;
}

export function forgetTimer(name: string) {
  try {
    localStorage.removeItem(keyOf(name));
  } catch {
    // What a browser does not keep need not be forgotten.
  }
}

/** A timer for tests in which time counts, counting down and then over. Each car has its own, by its name. */
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
    forgetTimer(name);
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
