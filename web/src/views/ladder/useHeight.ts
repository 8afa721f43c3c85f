import { useLayoutEffect, useRef, useState } from 'react';

/** Height of an element in whole pixels, followed as it changes. */
export function useHeight<T extends HTMLElement>(first: number) {
  const ref = useRef<T>(null);
  const [height, setHeight] = useState(first);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() =>
      setHeight(Math.max(320, Math.floor(element.clientHeight))),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, height] as const;
}
