/** Which figures of a front stand on which axis, and in what order its points are stepped through. */

import type { FrontPoint } from '../../model/api/types';

export const abscissae = {
  cost: { kind: 'money', of: 'price', title: 'price' },
  electric_w: { kind: 'electric_power', of: 'drawn', title: 'electric power' },
  face_m2: { kind: 'area', of: 'of face', title: 'face' },
} as const;
export type Abscissa = keyof typeof abscissae;

/** Ends of an axis that holds all values with some room, from zero where that is near. */
export function span(values: readonly number[]): { from: number; to: number } {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max((high - low) * 0.08, Math.abs(high) * 0.02, 1e-3);
  const from = low - room < 0.35 * high ? Math.min(0, low) : low - room;
  return { from, to: high + room };
}

/** The solution nearest beyond another along an axis, for the arrow keys; itself at the end. */
export function nextAlong(
  points: readonly FrontPoint[],
  from: number,
  axis: Abscissa,
  direction: 1 | -1,
): number {
  const shown = points.filter((point) => point.solution !== null);
  const ordered = [...shown].sort((a, b) => a[axis] - b[axis] || a.kept_k - b.kept_k);
  const at = ordered.findIndex((point) => point.solution === from);
  const next = ordered[Math.min(Math.max(at + direction, 0), ordered.length - 1)];
  return next?.solution ?? from;
}
