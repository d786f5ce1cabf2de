import { clock, shorten } from "../values";
import type { LaneProps } from "./VariableLane";

/** Questions, answers or what was told of a script that runs from top to bottom: each in its words, as far as the
next one leaves room. */
export function WordsLane({ trial, lane, layout, rem }: LaneProps) {
  const kind = lane.kind === "asked" ? "asked" : lane.kind === "told" ? "told" : "answered";
  const entries = trial.steps.flatMap((step, index) =>
    step.kind === kind ? [{ position: index + 1, text: step.text }] : [],
  );
  // what was told leaves the upper part of its lane to pins
  const top = lane.top + (kind === "told" ? lane.height - rem * 1.2 : lane.height * 0.25);
  const height = rem * 0.94;
  return (
    <>
      {entries.map(({ position, text }, index) => {
        const x = layout.x(position);
        const next = entries[index + 1];
        const room = (next ? layout.x(next.position) : layout.width) - x - 14;
        const words = shorten(text, Math.max(Math.floor(room / (rem * 0.42)), 3));
        return (
          <g key={position} role="img" aria-label={`${kind}: ${text}, ${clock(position, "step")}`} data-words={kind}>
            <title>{text}</title>
            <path
              d={kind === "answered" ? `M${x} ${top + height}v${-height}l7 3.5l-7 3.5` : `M${x} ${top}v${height}`}
              stroke="var(--ink)"
              strokeWidth={1.4}
              fill="none"
            />
            <text x={x + (kind === "answered" ? 10 : 5)} y={top + height / 2 + rem * 0.27}>
              {words}
            </text>
          </g>
        );
      })}
    </>
  );
}
