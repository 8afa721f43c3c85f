import { useEffect, useLayoutEffect } from 'react';
import { useLocation, useNavigationType } from 'react-router';

/** At the desk what the page is about scrolls, on a phone all of it. */
type Tops = readonly [main: number, page: number];
const TOP: Tops = [0, 0];

const scrolling = () => [document.getElementById('main'), document.documentElement] as const;
const here = (): Tops => {
  const [main, page] = scrolling();
  return [main?.scrollTop ?? 0, page.scrollTop];
};

/** Where each step of the way was left and, for one that was gone from before it was drawn, each view; and the step that is
 * shown, whichever frame it stands in. */
const left = new Map<string, Tops>();
let shown: { readonly view: string; readonly key: string } | null = null;

/** The step that is shown from now on. A function of its own: React's compiler reads a variable of the module only once it
 * is written, when both stand in one hook. */
function step(view: string, key: string, back: boolean) {
  const before = shown;
  shown = { view, key };
  if (!before || before.key === key) return;
  if (before.view !== view) {
    const tops = back ? (left.get(key) ?? left.get(view) ?? TOP) : TOP;
    for (const [i, each] of scrolling().entries()) if (each) each.scrollTop = tops[i] ?? 0;
  }
  note();
}

function note() {
  if (!shown) return;
  const tops = here();
  left.set(shown.key, tops);
  left.set(shown.view, tops);
}

/** Another view begins at its top, and one that is gone back to where it was left. */
export function useScroll(view: string) {
  const { key } = useLocation();
  const back = useNavigationType() === 'POP';
  useLayoutEffect(() => step(view, key, back), [view, key, back]);
  useEffect(() => {
    document.addEventListener('scroll', note, { capture: true, passive: true });
    return () => document.removeEventListener('scroll', note, { capture: true });
  }, []);
}
