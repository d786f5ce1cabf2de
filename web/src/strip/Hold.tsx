import { type PointerEvent, useState } from "react";

import type { TrialView } from "../api/client";
import { clock, seconds } from "../values";
import type { Layout } from "./layout";

interface HoldProps {
  given: TrialView["inputs"][number];
  top: number;
  height: number;
  layout: Layout;
  last: number;
  /** Hears where the input begins and ends after it was moved. */
  onDone: (frame: number, up: number) => void;
}

const GRIP = 7; // pixels at the end of a bar by which it is drawn out

interface Moved {
  part: "whole" | "end";
  from: number;
  by: number;
}

/** Takes hold of an input: the whole of it moves, and a bar is drawn out by its end. */
export function Hold({ given, top, height, layout, last, onDone }: HoldProps) {
  const [moved, setMoved] = useState<Moved | null>(null);
  const bar = given.kind === "hold";
  const by = moved?.by ?? 0;
  const frame = Math.min(Math.max(given.frame + (moved?.part === "end" ? 0 : by), 0), last);
  const length = Math.max(given.up - given.frame + (moved?.part === "end" ? by : 0), 1);
  const x = layout.x(frame);
  const width = bar ? Math.max(layout.x(Math.min(frame + length, last)) - x, 3) : 10;
  const frameOf = (event: PointerEvent) => {
    const svg = (event.target as SVGElement).ownerSVGElement;
    return layout.frameAt(event.clientX - (svg?.getBoundingClientRect().left ?? 0));
  };
  const take = (part: Moved["part"]) => (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setMoved({ part, from: frameOf(event), by: 0 });
  };
  const move = (event: PointerEvent) => {
    if (moved) setMoved({ ...moved, by: frameOf(event) - moved.from });
  };
  const drop = () => {
    if (moved?.by) onDone(frame, frame + length);
    setMoved(null);
  };
  return (
    <g data-hold onPointerMove={move} onPointerUp={drop}>
      <rect
        x={bar ? x : x - 4}
        y={top}
        width={width}
        height={height}
        fill={moved ? "var(--plum-tint)" : "transparent"}
        stroke={moved ? "var(--plum)" : "none"}
        className="cursor-grab"
        onPointerDown={take("whole")}
      />
      {bar ? (
        <rect
          x={x + width - GRIP}
          y={top - 2}
          width={GRIP}
          height={height + 4}
          fill={moved ? "var(--plum)" : "transparent"}
          className="cursor-ew-resize hover:fill-primary"
          data-grip
          onPointerDown={take("end")}
        />
      ) : null}
      {moved ? (
        <text x={x} y={top - 3} style={{ fill: "var(--plum)" }}>
          {clock(frame)}
          {bar ? `, ${seconds(length).toFixed(2)} s long` : ""}
        </text>
      ) : null}
    </g>
  );
}
