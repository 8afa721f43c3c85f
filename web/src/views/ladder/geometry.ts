/** Where marks and labels of the ladder go. */

export interface Placed<T> {
  readonly item: T;
  /** Where the mark belongs, px from the top. */
  readonly at: number;
  /** Where its label is written, px from the top. */
  readonly label: number;
}

/** Lowest and highest temperature shown, °C, in whole tens around the marks. */
export function ladderRange(values: readonly number[]): readonly [number, number] {
  const low = Math.min(60, ...values.filter((value) => value >= 20));
  const high = Math.max(120, ...values);
  return [Math.floor((low - 2) / 10) * 10, Math.ceil((high + 3) / 10) * 10];
}

/** Labels pushed apart so that none overlap, each as near to its mark as the others let it be. */
export function spread<T>(
  items: readonly { item: T; at: number }[],
  gap: number,
  top: number,
  bottom: number,
): Placed<T>[] {
  const sorted = [...items].sort((a, b) => a.at - b.at);
  // Clusters of touching labels share their space around the mean of their marks.
  const clusters: { members: typeof sorted; centre: number }[] = [];
  for (const entry of sorted) {
    clusters.push({ members: [entry], centre: within(entry.at, gap, top, bottom) });
    while (clusters.length > 1) {
      const last = clusters[clusters.length - 1];
      const before = clusters[clusters.length - 2];
      if (!last || !before) break;
      const room = (gap * (before.members.length + last.members.length)) / 2;
      if (last.centre - before.centre >= room) break;
      const members = [...before.members, ...last.members];
      const centre = members.reduce((sum, member) => sum + member.at, 0) / members.length;
      clusters.splice(-2, 2, {
        members,
        centre: within(centre, members.length * gap, top, bottom),
      });
    }
  }
  return clusters.flatMap(({ members, centre }) => {
    const first =
      within(centre, members.length * gap, top, bottom) - ((members.length - 1) * gap) / 2;
    return members.map((member, i) => ({
      item: member.item,
      at: member.at,
      label: first + i * gap,
    }));
  });
}

function within(centre: number, height: number, top: number, bottom: number): number {
  const half = height / 2;
  return Math.max(top + half, Math.min(bottom - half, centre));
}
