/** How large letters must be in a scene to be read, in squares: a small scene has fewer pixels a square. */

import { type RefObject, useEffect, useState } from "react";

const USUAL = 0.8; // squares
const LEAST = 12; // pixels

export function useLetters(ref: RefObject<SVGSVGElement | null>, width: number, height: number): number {
  const [letters, setLetters] = useState(USUAL);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const square = Math.min(entry.contentRect.width / width, entry.contentRect.height / height);
      if (square > 0) setLetters(Math.max(USUAL, LEAST / square));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref, width, height]);
  return letters;
}
