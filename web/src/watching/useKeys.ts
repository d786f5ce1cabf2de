/** The keys of a trial: space, the arrows, b and w. */

import { type Dispatch, useEffect, useRef } from "react";

import type { TrialView } from "../api/client";
import { isTyping } from "../shell/Shell";
import { changeFrames } from "./moments";
import type { Action, Playhead } from "./playhead";

interface Doings {
  broken: () => void;
  words: () => void;
}

/** Nothing is listened to while there is no trial, or a game has the keys. */
export function useKeys(trial: TrialView | null, head: Playhead, dispatch: Dispatch<Action>, doings: Doings): void {
  const latest = useRef({ trial, head, doings });
  useEffect(() => {
    latest.current = { trial, head, doings };
  });
  useEffect(() => {
    const toChange = (forward: boolean) => {
      const { trial: shown, head: now } = latest.current;
      if (!shown) return;
      const changes = changeFrames(shown);
      const frame = forward ? changes.find((each) => each > now.frame) : changes.findLast((each) => each < now.frame);
      dispatch({ do: "seek", frame: frame ?? (forward ? now.last : 0) });
    };
    const actions: Record<string, (event: KeyboardEvent) => void> = {
      " ": () => dispatch({ do: "toggle", now: performance.now() }),
      ArrowLeft: (event) => (event.shiftKey ? toChange(false) : dispatch({ do: "step", by: -1 })),
      ArrowRight: (event) => (event.shiftKey ? toChange(true) : dispatch({ do: "step", by: 1 })),
      Home: () => dispatch({ do: "seek", frame: 0 }),
      End: () => dispatch({ do: "seek", frame: latest.current.head.last }),
      b: () => latest.current.doings.broken(),
      w: () => latest.current.doings.words(),
    };
    const onKey = (event: KeyboardEvent) => {
      if (!latest.current.trial || (event.target as HTMLElement).closest("[data-game=playing]")) return;
      if (isTyping(event) || event.ctrlKey || event.altKey || event.metaKey) return;
      if (document.querySelector("dialog[open]")) return;
      const onButton =
        event.key === " " && (event.target as HTMLElement).closest("button, a, [role=button], [role=tab]");
      const action = onButton ? undefined : actions[event.key];
      if (!action) return;
      event.preventDefault();
      action(event);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [dispatch]);
}
