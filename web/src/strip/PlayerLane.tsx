import type { TrialView } from "../api/client";
import { clock, shorten, show } from "../values";
import { Hold } from "./Hold";
import type { StripHands } from "./Strip";
import type { LaneProps } from "./VariableLane";

type Given = TrialView["inputs"][number];

/** What the player did: a bar while a key is held, ticks for presses and clicks, flags for the rest. */
export function PlayerLane({ trial, lane, layout, rem, onInput }: LaneProps & { onInput: StripHands["onInput"] }) {
  const top = lane.top + lane.height * 0.2;
  const height = lane.height * 0.6;
  const base = top + height / 2 + rem * 0.27;
  return (
    <>
      {trial.inputs.map((given, index) => {
        const x = layout.x(given.frame);
        const width = Math.max(layout.x(Math.min(given.up, trial.last_frame)) - x, 2);
        return (
          <g
            key={`${given.kind} ${given.what} ${given.frame} ${index}`}
            role="img"
            aria-label={inWords(given)}
            data-input={given.kind}
          >
            <title>{inWords(given)}</title>
            {given.kind === "hold" ? (
              <rect x={x} y={top} width={width} height={height} fill="var(--ink-tint)" stroke="var(--pencil)" />
            ) : given.kind === "press" ? (
              <path d={`M${x} ${top}v${height}`} stroke="var(--ink)" strokeWidth={2.4} />
            ) : given.kind === "click" ? (
              <path d={`M${x} ${top}v${height}M${x - 4} ${top + height / 2}h8`} stroke="var(--ink)" strokeWidth={1.6} />
            ) : (
              <path
                d={`M${x} ${top + height}v${-height}l7 3.5l-7 3.5`}
                stroke="var(--ink)"
                strokeWidth={1.4}
                fill="none"
              />
            )}
            <text x={x + indent(given, width, rem)} y={base} pointerEvents="none">
              {label(given)}
            </text>
            {onInput ? (
              <Hold
                given={given}
                top={top}
                height={height}
                layout={layout}
                last={trial.last_frame}
                onDone={(frame, up) => onInput(index, frame, up)}
              />
            ) : null}
          </g>
        );
      })}
    </>
  );
}

/** Where a label begins: inside a bar that has room for it, else behind it. */
function indent(given: Given, width: number, rem: number): number {
  if (given.kind === "press") return 5;
  if (given.kind !== "hold") return 9;
  return width > label(given).length * rem * 0.5 + 8 ? 5 : width + 3;
}

function spot(given: Given): string {
  return Array.isArray(given.value) ? given.value.map(show).join(", ") : given.what;
}

function label(given: Given): string {
  const text =
    given.kind === "click" ? given.what : given.kind === "set" ? `${given.what} = ${show(given.value)}` : given.what;
  return shorten(text, 18);
}

function inWords(given: Given): string {
  const at = clock(given.frame);
  switch (given.kind) {
    case "hold":
      return `hold ${given.what}, from ${at} to ${clock(given.up)}${given.until ? `, until ${given.until}` : ""}`;
    case "press":
      return `press ${given.what} at ${at}`;
    case "click":
      return `click on ${spot(given)} at ${at}`;
    case "pick":
      return `pick "${given.what}" at ${at}`;
    case "answer":
      return `answer "${given.what}" at ${at}`;
    case "type":
      return `type "${given.what}" at ${at}`;
    case "set":
      return `${given.what} becomes ${show(given.value)} at ${at}`;
  }
}
