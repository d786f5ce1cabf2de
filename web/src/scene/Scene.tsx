import { memo, type PointerEvent, type ReactNode, useMemo, useRef, useState } from "react";

import type { SceneView } from "../api/client";
import { clock, shorten, show } from "../values";
import { BACKGROUNDS } from "./backgrounds";
import type { Moment } from "./moment";
import { Piece } from "./Piece";
import { useLetters } from "./useLetters";

type Spot = readonly [x: number, y: number];

interface SceneProps {
  scene: SceneView;
  moment: Moment;
  /** The address of the exercise's own pictures. */
  looks: string;
  /** Where a click on the scene goes, in squares; without it nothing can be clicked. */
  onClick?: (spot: Spot) => void;
  /** What lies over the scene, in its squares with y down. */
  children?: ReactNode;
}

/** The scene as it stood in one frame, on squared paper; the origin is at the bottom left. */
export function Scene({ scene, moment, looks, onClick, children }: SceneProps) {
  const pictures = useMemo(
    () => new Map(scene.own_looks.map((look) => [look, `${looks}/${look}.svg`])),
    [scene, looks],
  );
  const [pointer, setPointer] = useState<Spot | null>(null);
  const sizes = useMemo(
    () =>
      new Map([
        ...scene.kinds.map((each) => [each.kind, each] as const),
        ...scene.pieces.map((each) => [each.name, each] as const),
      ]),
    [scene],
  );
  const spotOf = (event: PointerEvent<SVGSVGElement>): Spot => {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      event.currentTarget.getScreenCTM()?.inverse(),
    );
    return [Math.round(at.x * 10) / 10, Math.round((scene.height - at.y) * 10) / 10];
  };
  const box = useRef<SVGSVGElement>(null);
  const letters = useLetters(box, scene.width, scene.height);
  const words = moment.pieces.map((each) => `${each.name} at ${show(each.x)}, ${show(each.y)}`).join("; ");
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${scene.width} ${scene.height}`}
      className={`mx-auto block max-h-full w-full ${onClick ? "cursor-crosshair" : ""}`}
      style={{ aspectRatio: `${scene.width} / ${scene.height}` }}
      preserveAspectRatio="xMidYMin meet"
      role={children ? "group" : "img"}
      aria-label={`The scene at ${clock(moment.frame)}: ${words}`}
      data-scene={moment.frame}
      onPointerMove={(event) => setPointer(spotOf(event))}
      onPointerLeave={() => setPointer(null)}
      onPointerDown={onClick && ((event) => onClick(spotOf(event)))}
    >
      <rect width={scene.width} height={scene.height} fill="var(--sheet)" stroke="var(--line)" strokeWidth={0.08} />
      {scene.background ? BACKGROUNDS[scene.background]?.(scene.width, scene.height) : null}
      <Squares width={scene.width} height={scene.height} />
      {layered(moment, sizes).map(({ stand, piece }) => (
        <Piece
          key={stand.name}
          stand={stand}
          size={piece?.size ?? [1, 1]}
          zone={piece?.zone ?? false}
          height={scene.height}
          letters={letters}
          picture={pictures.get(stand.look)}
        />
      ))}
      <Carried moment={moment} height={scene.height} />
      <Ruler width={scene.width} height={scene.height} letters={letters} />
      <Board moment={moment} height={scene.height} letters={letters} />
      <Telling moment={moment} scene={scene} letters={letters} />
      {children}
      {pointer ? (
        <g aria-hidden data-pointer>
          <path
            d={`M${pointer[0]} ${scene.height}v-0.5M${scene.width} ${scene.height - pointer[1]}h-0.5`}
            stroke="var(--plum)"
            strokeWidth={0.12}
          />
          <text
            x={scene.width - 0.4}
            y={letters * 1.2}
            textAnchor="end"
            style={{ fontSize: `${letters}px` }}
            stroke="var(--sheet)"
            strokeWidth={0.25}
            paintOrder="stroke"
          >
            x {pointer[0].toFixed(1)}, y {pointer[1].toFixed(1)}
          </text>
        </g>
      ) : null}
    </svg>
  );
}

/** Zones lie beneath all other pieces, which stand in scene order. */
function layered(moment: Moment, sizes: ReadonlyMap<string, SceneView["pieces"][number]>) {
  const all = moment.pieces.map((stand) => ({ stand, piece: sizes.get(stand.name) ?? sizes.get(stand.kind) }));
  return [...all.filter((each) => each.piece?.zone), ...all.filter((each) => !each.piece?.zone)];
}

const Squares = memo(function Squares({ width, height }: { width: number; height: number }) {
  const across = Array.from({ length: Math.max(Math.ceil(width) - 1, 0) }, (_, index) => index + 1);
  const up = Array.from({ length: Math.max(Math.ceil(height) - 1, 0) }, (_, index) => index + 1);
  return (
    <path
      aria-hidden
      d={across.map((x) => `M${x} 0V${height}`).join("") + up.map((y) => `M0 ${height - y}H${width}`).join("")}
      stroke="var(--square)"
      strokeWidth={0.05}
    />
  );
});

/** Numbers along both edges, every four squares or as many as leave room. */
const Ruler = memo(function Ruler({ width, height, letters }: { width: number; height: number; letters: number }) {
  const step = Math.max(4, Math.ceil(letters * 1.6));
  const every = (length: number) =>
    Array.from({ length: Math.max(Math.ceil(length / step) - 1, 0) }, (_, index) => (index + 1) * step);
  return (
    <g aria-hidden style={{ fontSize: `${letters * 0.8}px` }}>
      {every(width).map((x) => (
        <text key={x} x={x} y={height - 0.2} className="pencil" textAnchor="middle" style={{ fontSize: "inherit" }}>
          {x}
        </text>
      ))}
      {every(height).map((y) => (
        <text
          key={y}
          x={width - 0.2}
          y={height - y + letters * 0.28}
          className="pencil"
          textAnchor="end"
          style={{ fontSize: "inherit" }}
        >
          {y}
        </text>
      ))}
    </g>
  );
});

/** A hairline from a piece to what it carries. */
function Carried({ moment, height }: { moment: Moment; height: number }) {
  const lines = moment.pieces.flatMap((each) => {
    const other = each.carrying === null ? undefined : moment.pieces.find((piece) => piece.name === each.carrying);
    return other ? [{ name: each.name, d: `M${each.x} ${height - each.y}L${other.x} ${height - other.y}` }] : [];
  });
  return (
    <>
      {lines.map((line) => (
        <path
          key={line.name}
          d={line.d}
          stroke="var(--ink)"
          strokeWidth={0.08}
          strokeDasharray="0.2 0.2"
          data-carries={line.name}
        />
      ))}
    </>
  );
}

/** The scoreboard: labels with a place of their own stand there, the others in a list at the top left. */
function Board({ moment, height, letters }: { moment: Moment; height: number; letters: number }) {
  let row = 0;
  return (
    <>
      {moment.board.map(({ label, value, at }) => {
        const [x, y] = at ? [at[0], height - at[1]] : [0.6, letters * (1.4 + row++ * 1.2)];
        return (
          <text
            key={label}
            x={x}
            y={y}
            style={{ fontSize: `${letters * 1.1}px` }}
            stroke="var(--sheet)"
            strokeWidth={0.2}
            paintOrder="stroke"
            data-board={label}
          >
            {label} <tspan fontWeight={700}>{show(value)}</tspan>
          </text>
        );
      })}
    </>
  );
}

/** What pieces tell stands over them, on a strip of paper. */
function Telling({ moment, scene, letters }: { moment: Moment; scene: SceneView; letters: number }) {
  const latest = new Map(moment.telling.map((line) => [line.who, line.text]));
  return (
    <>
      {[...latest].map(([who, text]) => {
        const stand = moment.pieces.find((each) => each.name === who);
        if (!stand) return null;
        const size = scene.pieces.find((each) => each.name === who)?.size[1] ?? 1;
        const shown = shorten(text, 40);
        const width = Math.max(shown.length * letters * 0.55 + 0.6, 1.2);
        const x = Math.min(Math.max(stand.x - width / 2, 0.1), scene.width - width - 0.1);
        const y = Math.max(scene.height - stand.y - (size * stand.size) / 2 - letters * 1.8, 0.1);
        return (
          <g key={who} data-tells={who}>
            <rect
              x={x}
              y={y}
              width={width}
              height={letters * 1.45}
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={0.05}
            />
            <text x={x + 0.3} y={y + letters * 1.05} style={{ fontSize: `${letters}px` }}>
              {shown}
            </text>
          </g>
        );
      })}
    </>
  );
}
