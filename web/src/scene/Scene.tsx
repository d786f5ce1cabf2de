import { memo, useMemo } from "react";

import type { SceneView, TraceView } from "../api/client";
import { clock, placeAt, show, valueAt } from "../values";
import { LOOKS } from "./looks";

interface SceneProps {
  scene: SceneView;
  trace: TraceView;
  frame: number;
}

interface Stand {
  name: string;
  look: string;
  size: readonly [number, number];
  x: number;
  y: number;
  scale: number;
  opacity: number;
}

/** The scene as it stood in one frame, on squared paper; the origin is at the bottom left. */
export function Scene({ scene, trace, frame }: SceneProps) {
  const sizes = useMemo(() => sizesOf(scene, trace), [scene, trace]);
  const stands = standing(trace, sizes, frame);
  const board = boardAt(trace, frame);
  return (
    <svg
      viewBox={`0 0 ${scene.width} ${scene.height}`}
      className="mx-auto block h-full max-w-full border border-base-300 bg-(--sheet)"
      preserveAspectRatio="xMidYMax meet"
      role="img"
      aria-label={`The scene at ${clock(frame)}: ${stands.map((each) => `${each.name} at ${show(each.x)}, ${show(each.y)}`).join("; ")}`}
      data-scene={frame}
    >
      <Squares width={scene.width} height={scene.height} />
      {stands.map((each) => (
        <Piece key={each.name} stand={each} height={scene.height} />
      ))}
      <Ruler width={scene.width} height={scene.height} />
      {board.map(({ label, value }, place) => (
        <text key={label} x={0.6} y={1.25 + place * 1.1} style={{ fontSize: "0.9px" }} stroke="var(--sheet)" strokeWidth={0.2} paintOrder="stroke">
          {label} <tspan fontWeight={700}>{show(value)}</tspan>
        </text>
      ))}
    </svg>
  );
}

const Squares = memo(function Squares({ width, height }: { width: number; height: number }) {
  const across = Array.from({ length: Math.ceil(width) - 1 }, (_, place) => place + 1);
  const up = Array.from({ length: Math.ceil(height) - 1 }, (_, place) => place + 1);
  return (
    <g aria-hidden>
      <path
        d={across.map((x) => `M${x} 0V${height}`).join("") + up.map((y) => `M0 ${height - y}H${width}`).join("")}
        stroke="var(--square)"
        strokeWidth={0.05}
      />
    </g>
  );
});

/** Numbers along both edges, every four squares. */
const Ruler = memo(function Ruler({ width, height }: { width: number; height: number }) {
  const every4 = (length: number) => Array.from({ length: Math.ceil(length / 4) - 1 }, (_, place) => (place + 1) * 4);
  return (
    <g aria-hidden style={{ fontSize: "0.62px" }}>
      {every4(width).map((x) => (
        <text key={x} x={x} y={height - 0.2} className="pencil" textAnchor="middle" style={{ fontSize: "inherit" }}>
          {x}
        </text>
      ))}
      {every4(height).map((y) => (
        <text key={y} x={width - 0.2} y={height - y + 0.22} className="pencil" textAnchor="end" style={{ fontSize: "inherit" }}>
          {y}
        </text>
      ))}
    </g>
  );
});

function Piece({ stand, height }: { stand: Stand; height: number }) {
  const [w, h] = [stand.size[0] * stand.scale, stand.size[1] * stand.scale];
  const look = LOOKS[stand.look];
  return (
    <g
      transform={`translate(${stand.x - w / 2} ${height - stand.y - h / 2}) scale(${w} ${h})`}
      opacity={stand.opacity}
      data-piece={stand.name}
    >
      {look ? look() : <rect width={1} height={1} fill="var(--color-base-200)" stroke="var(--ink)" strokeWidth={0.04} />}
    </g>
  );
}

/** The size and look of every piece of a trace; spawned ones have those of their spawner. */
function sizesOf(scene: SceneView, trace: TraceView): Map<string, { size: readonly [number, number]; look: string }> {
  const sizes = new Map<string, { size: readonly [number, number]; look: string }>();
  for (const piece of scene.pieces) sizes.set(piece.name, { size: piece.size, look: piece.look });
  for (const name of Object.keys(trace.pieces)) {
    const spawned = scene.spawned.find((each) => name.startsWith(`${each.kind}_`));
    if (!sizes.has(name) && spawned) sizes.set(name, { size: spawned.size, look: spawned.look });
  }
  return sizes;
}

function standing(trace: TraceView, sizes: Map<string, { size: readonly [number, number]; look: string }>, frame: number): Stand[] {
  const stands: Stand[] = [];
  for (const [name, track] of Object.entries(trace.pieces)) {
    const size = sizes.get(name);
    if (!size || placeAt(track["x"], frame) < 0) continue;
    if (valueAt(track["removed"], frame) === true || valueAt(track["visible"], frame) === false) continue;
    stands.push({
      name,
      look: String(valueAt(track["look"], frame)),
      size: size.size,
      x: Number(valueAt(track["x"], frame)),
      y: Number(valueAt(track["y"], frame)),
      scale: Number(valueAt(track["size"], frame)),
      opacity: Math.min(Number(valueAt(track["opacity"], frame)), 1),
    });
  }
  return stands;
}

/** What the scoreboard shows in a frame, in the order in which labels came. */
function boardAt(trace: TraceView, frame: number): { label: string; value: unknown }[] {
  const shown = new Map<string, unknown>();
  for (const each of trace.board) if (each.frame <= frame) shown.set(each.label, each.value);
  return [...shown].map(([label, value]) => ({ label, value }));
}
