/** Times that run: by the clock on the wall, so that they go on through a reload, a locked screen or a stopped server. */

import { useEffect, useState } from 'react';

/** Seconds between drawings: the clock shows whole ones. */
const TICK = 500;

export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor(whole / 60) % 60;
  const rest = String(whole % 60).padStart(2, '0');
  return hours > 0
    ? `${hours}:${String(minutes).padStart(2, '0')}:${rest}`
    : `${String(minutes).padStart(2, '0')}:${rest}`;
}

/** As many seconds are said in hours. */
const LONG = 7200;
const inHours = (seconds: number) => (seconds / 3600).toFixed(1);

/** Minutes as one says them at the car: halves below a quarter of an hour, whole ones above. */
export function inMinutes(seconds: number): string {
  const minutes = seconds / 60;
  const shown = minutes < 15 ? Math.round(minutes * 2) / 2 : Math.round(minutes);
  const whole = Math.floor(shown);
  return shown === whole ? `${whole}` : `${whole === 0 ? '' : whole}½`;
}

/** How long something lasts. */
export const lasting = (seconds: number): string =>
  seconds >= LONG ? `${inHours(seconds)} h` : `${inMinutes(seconds)} min`;

/** Between which two times something lies, both in the unit of the longer one. */
export const between = (low: number, high: number): string =>
  high >= LONG
    ? `${inHours(low)} to ${inHours(high)} h`
    : `${inMinutes(low)} to ${inMinutes(high)} min`;

/** Seconds since a moment of the clock, drawn anew as it goes on: it survives whatever happens to the page. */
export function useSince(startedAt: string | null): number | null {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (startedAt === null) return;
    setNow(Date.now());
    const tick = setInterval(() => setNow(Date.now()), TICK);
    return () => clearInterval(tick);
  }, [startedAt]);
  return startedAt === null ? null : Math.max(0, (now - Date.parse(startedAt)) / 1000);
}
