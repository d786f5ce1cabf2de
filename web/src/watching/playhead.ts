/** Where the cursor of a trial is, and whether it runs: a pure reducer over a closed set of actions.

While it plays, the frame follows the clock from where it began, not the number of drawn frames, so
that a slow machine shows fewer frames and never a slower game. */

import { FRAMES_PER_SECOND } from "../values";

export const SPEEDS = [0.25, 0.5, 1, 2] as const;
export type Speed = (typeof SPEEDS)[number];

export interface Playhead {
  frame: number;
  last: number;
  /** Frames (or steps) of a second at speed 1. */
  rate: number;
  speed: Speed;
  /** The moment (in milliseconds) and the frame from which it plays; null while it stands. */
  playing: { since: number; from: number } | null;
}

export type Action =
  | { do: "load"; last: number; frame: number; rate: number }
  | { do: "seek"; frame: number }
  | { do: "step"; by: number }
  | { do: "toggle"; now: number }
  | { do: "tick"; now: number }
  | { do: "speed"; speed: Speed; now: number };

export const STILL: Playhead = { frame: 0, last: 0, rate: FRAMES_PER_SECOND, speed: 1, playing: null };

export function reduce(state: Playhead, action: Action): Playhead {
  switch (action.do) {
    case "load":
      return {
        ...state,
        rate: action.rate,
        last: action.last,
        frame: clamp(action.frame, action.last),
        playing: null,
      };
    case "seek":
      return { ...state, frame: clamp(action.frame, state.last), playing: null };
    case "step":
      return { ...state, frame: clamp(state.frame + action.by, state.last), playing: null };
    case "toggle": {
      if (state.playing) return { ...state, playing: null };
      const from = state.frame >= state.last ? 0 : state.frame;
      return { ...state, frame: from, playing: { since: action.now, from } };
    }
    case "tick": {
      if (!state.playing) return state;
      const frame = frameAt(state.playing, action.now, state.rate * state.speed);
      if (frame >= state.last) return { ...state, frame: state.last, playing: null };
      return frame === state.frame ? state : { ...state, frame };
    }
    case "speed":
      return {
        ...state,
        speed: action.speed,
        playing: state.playing ? { since: action.now, from: state.frame } : null,
      };
  }
}

/** The frame that is due at a moment. */
function frameAt(playing: { since: number; from: number }, now: number, rate: number): number {
  return playing.from + Math.floor(((now - playing.since) / 1000) * rate);
}

function clamp(frame: number, last: number): number {
  return Math.min(Math.max(Math.round(frame), 0), last);
}
