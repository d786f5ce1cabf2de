import type { EventWords, TrialView } from "../api/client";
import { clock } from "../values";
import type { LaneProps } from "./VariableLane";

/** What came: bars while pieces overlap; ticks for lines of the story, messages, timers and sounds; hollow
where nobody handled it. */
export function CameLane({ trial, lane, layout, rem }: LaneProps) {
  const top = lane.top + lane.height * 0.25;
  const height = lane.height * 0.5;
  const middle = lane.top + lane.height / 2;
  return (
    <>
      {trial.overlaps.map((overlap) => {
        const x = layout.x(overlap.first);
        const width = Math.max(layout.x(overlap.last + 1) - x, 4);
        const words = overlap.pair.join(" and ");
        return (
          <g
            key={`${words} ${overlap.first}`}
            role="img"
            aria-label={`${words} overlap from ${clock(overlap.first)}${overlap.handled ? "" : ", nobody handles it"}`}
          >
            <title>{words}</title>
            <rect
              x={x}
              y={top}
              width={width}
              height={height}
              fill={overlap.handled ? "var(--pencil)" : "var(--color-base-100)"}
              stroke="var(--pencil)"
            />
            {width > rem * 3 ? (
              <text
                x={x + 4}
                y={middle + rem * 0.27}
                style={{ fill: overlap.handled ? "var(--color-base-100)" : "var(--ink)" }}
              >
                {overlap.pair[1]}
              </text>
            ) : null}
          </g>
        );
      })}
      {unheard(trial).map((event) => (
        <g
          key={`${event.event.text} ${event.frame}`}
          role="img"
          aria-label={`${event.event.text} at ${clock(event.frame)}: nobody listens`}
        >
          <title>{event.event.text}: nobody listens</title>
          <circle
            cx={layout.x(event.frame)}
            cy={middle}
            r={4}
            fill="var(--color-base-100)"
            stroke="var(--pencil)"
            strokeWidth={1.4}
          />
          <text className="pencil" x={layout.x(event.frame) + 8} y={middle + rem * 0.27}>
            nobody listens
          </text>
        </g>
      ))}
      {ticks(trial).map(({ frame, words, shape, hollow }, index) => (
        <g key={`${frame} ${index}`} role="img" aria-label={`${words} at ${clock(frame)}`} data-came={shape}>
          <title>{words}</title>
          <Tick shape={shape} hollow={hollow} x={layout.x(Math.max(frame, 0))} top={top} height={height} />
        </g>
      ))}
    </>
  );
}

type Kind = EventWords["kind"];
type Shape = "told" | "message" | "timer" | "sound" | "arrival";

interface TickOf {
  frame: number;
  words: string;
  shape: Shape;
  hollow: boolean;
}

/** Told: a stroke with a barb. Message: a lozenge. Timer: a short stroke. Sound: a wave. Arrival: a corner. */
function Tick({
  shape,
  hollow,
  x,
  top,
  height,
}: {
  shape: Shape;
  hollow: boolean;
  x: number;
  top: number;
  height: number;
}) {
  const middle = top + height / 2;
  const fill = hollow ? "var(--color-base-100)" : "var(--ink)";
  switch (shape) {
    case "told":
      return (
        <path d={`M${x} ${top}v${height}m0 0l4 -4m-4 4l-4 -4`} stroke="var(--ink)" strokeWidth={1.6} fill="none" />
      );
    case "message":
      return <path d={`M${x} ${middle - 5}l4.5 5l-4.5 5l-4.5 -5z`} stroke="var(--ink)" strokeWidth={1.4} fill={fill} />;
    case "timer":
      return <path d={`M${x} ${top + height}v-6`} stroke="var(--ink)" strokeWidth={1.6} />;
    case "sound":
      return <path d={`M${x - 4} ${top + 2}q2 -4 4 0t4 0`} stroke="var(--ink)" strokeWidth={1.4} fill="none" />;
    case "arrival":
      return <path d={`M${x} ${top + height}v${-height}h5`} stroke="var(--pencil)" strokeWidth={1.6} fill="none" />;
  }
}

function ticks(trial: TrialView): TickOf[] {
  const trace = trial.trace;
  if (!trace) return [];
  const handled = (...kinds: readonly Kind[]) =>
    trace.events.filter((event) => kinds.includes(event.event.kind) && event.handlers.length > 0);
  return [
    ...handled("every", "after").map((event): TickOf => ({
      frame: event.frame,
      words: event.event.text,
      shape: "timer",
      hollow: false,
    })),
    ...handled("appeared", "gone").map((event): TickOf => ({
      frame: event.frame,
      words: event.event.text,
      shape: "arrival",
      hollow: false,
    })),
    ...trace.sounds.map((sound): TickOf => ({
      frame: sound.frame,
      words: `sound ${sound.name}`,
      shape: "sound",
      hollow: false,
    })),
    ...trace.messages.map((sent): TickOf => ({
      frame: sent.frame,
      words: `message ${sent.text}${sent.heard_by.length ? "" : ", which nobody hears"}`,
      shape: "message",
      hollow: sent.heard_by.length === 0,
    })),
    ...trace.story.map((line): TickOf => ({
      frame: line.frame,
      words: `told: ${line.text}`,
      shape: "told",
      hollow: false,
    })),
  ];
}

const BY_THE_PLAYER: readonly Kind[] = ["pressed", "clicked", "picked", "replied", "typed"];

/** What the player did that no handler waits for; keys that steer a piece need none. */
function unheard(trial: TrialView) {
  const steering = new Set(trial.scene.pieces.flatMap((piece) => piece.keys));
  return (trial.trace?.events ?? []).filter(
    ({ event, handlers }) =>
      handlers.length === 0 &&
      BY_THE_PLAYER.includes(event.kind) &&
      !(event.kind === "pressed" && steering.has(String(event.about[0]))),
  );
}
