/** Sizes that a drawing needs to know: its own width and the size of the page's letters. */

import { type RefObject, useEffect, useState } from "react";

export function useWidth(ref: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return width;
}

export function useRem(): number {
  const [rem, setRem] = useState(16);
  useEffect(() => {
    const read = () => setRem(parseFloat(getComputedStyle(document.documentElement).fontSize) || 16);
    read();
    const observer = new MutationObserver(read);
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ["data-size"] });
    return () => observer.disconnect();
  }, []);
  return rem;
}
