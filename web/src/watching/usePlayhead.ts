/** The playhead as React sees it: the reducer, and a tick for every drawn frame while it plays. */

import { type Dispatch, useEffect, useReducer } from "react";

import { type Action, type Playhead, reduce, STILL } from "./playhead";

export function usePlayhead(last: number, frame: number, rate: number): [Playhead, Dispatch<Action>] {
  const [head, dispatch] = useReducer(reduce, undefined, () => reduce(STILL, { do: "load", last, frame, rate }));
  const playing = head.playing !== null;
  useEffect(() => {
    if (!playing) return;
    let request = 0;
    const tick = () => {
      dispatch({ do: "tick", now: performance.now() });
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(request);
  }, [playing]);
  return [head, dispatch];
}
