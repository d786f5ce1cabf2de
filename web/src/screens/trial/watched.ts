/** What is being watched: a trial with its findings, and where its parts lead to. The parts of the screen ask for it. */

import { createContext, useContext } from "react";

import type { FindingView, SubmissionView, TraceView } from "../../api/client";
import type { ShownTrial } from "../../strip/steps";
import type { Tie } from "../../watching/tie";

export interface Watched {
  trial: ShownTrial;
  trace: TraceView;
  scenario: number;
  /** The try with its findings; a game by hand has none. */
  submission: SubmissionView | null;
  /** The findings of the try, those about this scenario first. */
  findings: readonly FindingView[];
  seek: (frame: number) => void;
  /** Points at lines and moments, in script and strip at once. */
  tie: (tie: Tie | null) => void;
}

export const WatchedContext = createContext<Watched | null>(null);

export function useWatched(): Watched {
  const watched = useContext(WatchedContext);
  if (!watched) throw new Error("this part belongs inside a trial that is watched");
  return watched;
}
