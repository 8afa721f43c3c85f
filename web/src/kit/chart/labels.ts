/** Where the words of a chart go. */

export interface Label {
  readonly text: string;
  /** Where it begins, px. */
  readonly x: number;
  /** Its foot, px. */
  readonly y: number;
  readonly main?: boolean;
  readonly strong?: boolean;
  /** Keeps it readable where lines pass behind it. */
  readonly over?: boolean;
  readonly fails?: boolean;
}

const LETTER = { plain: 6.7, strong: 6.9 };
const LINE = 15;

/** How wide a label is, px: by its letters, for it is placed before it is drawn. */
export const widthOf = (label: Label): number =>
  label.text.length * (label.main || label.strong ? LETTER.strong : LETTER.plain);

/** Labels, each as near to where it wants to be as those before it leave room, none over an end, and none below what it
 * wants to be above. What is said there already is not said again. */
export function apart(
  labels: readonly Label[],
  ends: { readonly right: number; readonly top: number; readonly bottom: number },
): Label[] {
  const placed: { readonly label: Label; readonly wanted: number }[] = [];
  const beside = (a: Label, b: Label) => a.x < b.x + widthOf(b) && b.x < a.x + widthOf(a);
  for (const asked of labels) {
    const label = {
      ...asked,
      x: Math.min(asked.x, ends.right - widthOf(asked)),
      y: Math.min(Math.max(asked.y, ends.top), ends.bottom),
    };
    const others = placed.filter((other) => beside(other.label, label));
    const meets = (y: number) => others.some((other) => Math.abs(other.label.y - y) < LINE);
    if (meets(label.y) && others.some((other) => other.label.text === label.text)) continue;
    // Of two that want the same height the later one goes below.
    const inOrder = (y: number) =>
      others.every((other) => (y - other.label.y) * (label.y - other.wanted || 1) > 0);
    const inside = (y: number) => y >= ends.top && y <= ends.bottom;
    // Just above or below what is in the way, whichever is nearer.
    const near = [label.y, ...others.flatMap(({ label: { y } }) => [y - LINE, y + LINE])]
      .filter((y) => !meets(y))
      .sort((a, b) => Math.abs(a - label.y) - Math.abs(b - label.y));
    const y = near.find((y) => inOrder(y) && inside(y)) ?? near.find(inside) ?? near[0] ?? label.y;
    placed.push({ label: { ...label, y }, wanted: label.y });
  }
  return placed.map(({ label }) => label);
}
