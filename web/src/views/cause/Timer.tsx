import { useEffect, useState } from 'react';
import { Button, Row, Words } from '../../kit/primitives';

const keyOf = (name: string) => `ebbrin.timer.${name}`;

function begun(name: string): number | null {
  const at = Number(localStorage.getItem(keyOf(name)));
  return Number.isFinite(at) && at > 0 ? at : null;
}

/** A timer for tests in which time counts. It goes on by the clock through a reload, a locked screen or a stopped server. */
export function Timer({ name, minutes }: { readonly name: string; readonly minutes: number }) {
  const [since, setSince] = useState(() => begun(name));
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (since === null) return;
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, [since]);
  function start() {
    const at = Date.now();
    try {
      localStorage.setItem(keyOf(name), String(at));
    } catch {
      // It runs as long as this page is open.
    }
    setNow(at);
    setSince(at);
  }
  function stop() {
    localStorage.removeItem(keyOf(name));
    setSince(null);
  }
  if (since === null)
    return (
      <Button marginBlock="2" onClick={start}>
        Start {minutes} minutes
      </Button>
    );
  const left = Math.ceil(minutes * 60 - (now - since) / 1000);
  const clock = `${Math.floor(Math.abs(left) / 60)}:${String(Math.abs(left) % 60).padStart(2, '0')}`;
  return (
    <Row role="timer" gap="3" marginBlock="2">
      <Words size="huge" tone={left <= 0 ? 'holds' : 'ink'}>
        {clock}
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
