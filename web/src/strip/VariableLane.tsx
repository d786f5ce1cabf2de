import { curveStepAfter, line } from "d3-shape";

import { type History, isUnset, show } from "../values";
import { heightsOf, type Lane, type Layout } from "./layout";
import type { ShownTrial } from "./steps";

export interface LaneProps {
  trial: ShownTrial;
  lane: Lane;
  layout: Layout;
  rem: number;
}

/** A stepped line that carries its value at every change; the reference's behind it, thin and dashed. */
export function VariableLane({ trial, lane, layout, rem }: LaneProps) {
  const own = trial.samples[lane.name] ?? [];
  const reference = trial.reference?.samples[lane.name] ?? [];
  const y = heightsOf(lane, [own, reference]);
  const end = (trial.trace?.frames ?? 1) - 1;
  return (
    <>
      <path
        d={stepped(reference, trial.last_frame, layout, y)}
        stroke="var(--pencil)"
        strokeWidth={1.2}
        strokeDasharray="5 4"
        fill="none"
      />
      <path d={stepped(own, end, layout, y)} stroke="var(--ink)" strokeWidth={2} fill="none" data-line={lane.name} />
      {labelled(own, layout, rem).map(([frame, value, falls]) => (
        <text
          key={frame}
          x={layout.x(frame) + 4}
          y={(isUnset(value) ? lane.top + lane.height / 2 : y(value)) + (falls ? rem * 0.9 : -rem * 0.3)}
          className={isUnset(value) ? "pencil" : ""}
          fontWeight={600}
          stroke="var(--color-base-100)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {show(value)}
        </text>
      ))}
    </>
  );
}

/** The changes whose value has room beside the one before; true where the value fell. */
function labelled(history: History, layout: Layout, rem: number): [frame: number, value: unknown, falls: boolean][] {
  const found: [number, unknown, boolean][] = [];
  let free = -Infinity;
  history.forEach(([frame, value], index) => {
    const x = layout.x(frame);
    if (x < free) return;
    free = x + show(value).length * rem * 0.62;
    const before = history[index - 1]?.[1];
    found.push([frame, value, typeof value === "number" && typeof before === "number" && value < before]);
  });
  return found;
}

/** The path of a history up to a frame; where it is unset there is no line. */
function stepped(history: History, end: number, layout: Layout, y: (value: unknown) => number): string {
  const points = history.filter(([frame]) => frame <= end);
  const last = points[points.length - 1];
  const closed: [number, unknown][] = points.map(([frame, value]) => [frame, value]);
  if (last && end > last[0]) closed.push([end, last[1]]);
  return (
    line<[number, unknown]>()
      .defined(([, value]) => !isUnset(value))
      .x(([frame]) => layout.x(frame))
      .y(([, value]) => y(value))
      .curve(curveStepAfter)(closed) ?? ""
  );
}
