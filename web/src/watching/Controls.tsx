import { Pause, Play, StepBack, StepForward } from "lucide-react";
import type { Dispatch } from "react";

import { type Action, type Playhead, SPEEDS } from "./playhead";
import { Button } from "../shell/Button";

const NAMES: Record<number, string> = { 0.25: "¼", 0.5: "½", 1: "1", 2: "2" };

/** Play, pause, step, and how fast. */
export function Controls({ head, dispatch }: { head: Playhead; dispatch: Dispatch<Action> }) {
  const playing = head.playing !== null;
  return (
    <div className="flex items-center">
      <Button look="icon" size="xs" aria-label="One frame back" onClick={() => dispatch({ do: "step", by: -1 })}>
        <StepBack size="1.1em" aria-hidden />
      </Button>
      <Button
        look="icon"
        size="xs"
        className="text-primary"
        aria-label={playing ? "Pause" : "Play"}
        onClick={() => dispatch({ do: "toggle", now: performance.now() })}
      >
        {playing ? <Pause size="1.2em" aria-hidden /> : <Play size="1.2em" aria-hidden />}
      </Button>
      <Button look="icon" size="xs" aria-label="One frame on" onClick={() => dispatch({ do: "step", by: 1 })}>
        <StepForward size="1.1em" aria-hidden />
      </Button>
      <fieldset className="ml-2 flex" aria-label="Speed">
        {SPEEDS.map((speed) => (
          <Button
            key={speed}
            look="quiet"
            size="xs"
            className="aria-pressed:font-bold aria-pressed:text-primary aria-pressed:underline aria-pressed:underline-offset-4"
            aria-label={`Speed ${NAMES[speed] ?? speed}`}
            aria-pressed={head.speed === speed}
            onClick={() => dispatch({ do: "speed", speed, now: performance.now() })}
          >
            {NAMES[speed] ?? speed}
          </Button>
        ))}
      </fieldset>
    </div>
  );
}
