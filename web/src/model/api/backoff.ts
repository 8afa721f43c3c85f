const FIRST = 1000; // ms
const LONGEST = 30_000; // ms

/** How long to wait before a server that was away is asked again: twice as long each time, up to half a minute, and
 * not at the same moment as every other page. */
export function backoff(attempt: number, chance = Math.random()): number {
  return Math.min(FIRST * 2 ** attempt, LONGEST) * (0.75 + 0.5 * chance);
}
