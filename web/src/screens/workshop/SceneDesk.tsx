import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";

import type { SceneView } from "../../api/client";
import type { Moment } from "../../scene/moment";
import { Scene } from "../../scene/Scene";
import type { Chosen, Row, Settings } from "./rows";
import { isRow, number, pair, rowsOf, sceneOf, text, tidy } from "./rows";
import type { Hands } from "./useDraft";

interface SceneDeskProps {
  settings: Settings | null;
  looks: string;
  pictures: readonly string[];
  chosen: Chosen | null;
  onChoose: (chosen: Chosen | null) => void;
  hands: Hands;
}

interface Drag {
  index: number;
  how: "move" | "size";
  /** Where the hand took hold, in squares. */
  from: readonly [number, number];
  at: [number, number];
  size: [number, number];
}

const STEP = 0.5; // squares that an arrow key moves by
const FINE = 0.1; // the same with shift

/** The scene as it stands at the beginning; pieces are placed, moved and sized by mouse and by keyboard. */
export function SceneDesk({ settings, looks, pictures, chosen, onChoose, hands }: SceneDeskProps) {
  const pieces = rowsOf(settings, "piece");
  const box = useRef<SVGGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  /** Where a piece goes by keys that the server has not answered yet: the next key counts from there. */
  const nudged = useRef<{ index: number; at: [number, number] } | null>(null);
  useEffect(() => {
    const known = nudged.current;
    if (known && String(pair(pieces[known.index], "at", [1, 1])) === String(known.at)) nudged.current = null;
  }, [pieces]);
  const shown = useMemo(
    () =>
      pieces.map((piece, index) =>
        drag?.index === index ? { ...piece, at: drag.at.map(tidy), size: drag.size.map(tidy) } : piece,
      ),
    [pieces, drag],
  );
  const scene = useMemo(() => sceneView(settings, shown, pictures), [settings, shown, pictures]);
  const moment = useMemo(() => momentOf(shown), [shown]);
  const spot = (event: PointerEvent): readonly [number, number] => {
    const matrix = box.current?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [at.x, scene.height - at.y];
  };
  const take = (event: PointerEvent, index: number, how: Drag["how"]) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose({ table: "piece", index });
    const row = pieces[index];
    setDrag({ index, how, from: spot(event), at: pair(row, "at", [1, 1]), size: pair(row, "size", [1, 1]) });
  };
  const move = (event: PointerEvent) => {
    if (!drag) return;
    const row = pieces[drag.index];
    const [x, y] = spot(event);
    const by = [x - drag.from[0], y - drag.from[1]] as const;
    const grid = event.shiftKey ? FINE : STEP;
    const [ax, ay] = pair(row, "at", [1, 1]);
    const [w, h] = pair(row, "size", [1, 1]);
    if (drag.how === "move") setDrag({ ...drag, at: [snap(ax + by[0], grid), snap(ay + by[1], grid)] });
    else
      setDrag({ ...drag, size: [Math.max(snap(w + 2 * by[0], grid), 0.1), Math.max(snap(h + 2 * by[1], grid), 0.1)] });
  };
  const drop = () => {
    if (!drag) return;
    const row = pieces[drag.index];
    const keys: Record<string, unknown> = {};
    const [at, size] = [drag.at.map(tidy), drag.size.map(tidy)];
    if (String(at) !== String(pair(row, "at", [1, 1]))) keys["at"] = at;
    if (String(size) !== String(pair(row, "size", [1, 1]))) keys["size"] = size;
    if (Object.keys(keys).length === 0) setDrag(null);
    else void hands.change({ do: "change", table: "piece", index: drag.index, keys }).then(() => setDrag(null));
  };
  const onKey = (event: KeyboardEvent, index: number) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    const before = nudged.current?.index === index ? nudged.current : null;
    const [x, y] = before ? before.at : pair(pieces[index], "at", [1, 1]);
    if (way) {
      event.preventDefault();
      const by = event.shiftKey ? FINE : STEP;
      const at: [number, number] = [tidy(x + (way[0] ?? 0) * by), tidy(y + (way[1] ?? 0) * by)];
      const now = { index, at };
      nudged.current = now;
      void hands.change({ do: "change", table: "piece", index, keys: { at } }).then((made) => {
        if (!made && nudged.current === now) nudged.current = null;
      });
    } else if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onChoose({ table: "piece", index });
    } else if (event.key === "Delete") {
      event.preventDefault();
      onChoose(null);
      void hands.change({ do: "remove", table: "piece", index });
    }
  };
  return (
    <Scene scene={scene} moment={moment} looks={looks}>
      <g ref={box} data-desk onPointerMove={move} onPointerUp={drop}>
        {shown.map((piece, index) => {
          const [x, y] = pair(piece, "at", [1, 1]);
          const [w, h] = pair(piece, "size", [1, 1]);
          const top = scene.height - y - h / 2;
          const own = chosen?.table === "piece" && chosen.index === index;
          return (
            <g key={`${text(piece, "name")} ${index}`}>
              <Motion piece={piece} pieces={shown} height={scene.height} />
              <rect
                x={x - w / 2}
                y={top}
                width={w}
                height={h}
                fill="transparent"
                stroke={own ? "var(--plum)" : "none"}
                strokeWidth={0.12}
                role="button"
                tabIndex={0}
                aria-pressed={own}
                aria-label={`${text(piece, "name", "a piece without a name")} at ${tidy(x)}, ${tidy(y)}`}
                className="cursor-move"
                style={{ touchAction: "none" }}
                data-thing={text(piece, "name")}
                onPointerDown={(event) => take(event, index, "move")}
                onKeyDown={(event) => onKey(event, index)}
              />
              {own ? (
                <>
                  <path
                    d={`M${x} ${top}V${Math.max(top - 1.2, 0)}`}
                    stroke="var(--plum)"
                    strokeWidth={0.08}
                    strokeDasharray="0.2 0.2"
                  />
                  <text x={x + 0.3} y={Math.max(top - 0.6, 0.9)} style={{ fontSize: "0.8px", fill: "var(--plum)" }}>
                    {tidy(x)}, {tidy(y)}
                  </text>
                  <rect
                    x={x + w / 2 - 0.2}
                    y={top - 0.2}
                    width={0.4}
                    height={0.4}
                    fill="var(--plum)"
                    className="cursor-nesw-resize"
                    data-size-handle
                    onPointerDown={(event) => take(event, index, "size")}
                  />
                </>
              ) : null}
            </g>
          );
        })}
      </g>
    </Scene>
  );
}

function snap(value: number, grid: number): number {
  return Math.round(value / grid) * grid;
}

/** How a piece moves, drawn: a path, an arrow with its speed, a dashed line to what it follows. */
function Motion({ piece, pieces, height }: { piece: Row; pieces: readonly Row[]; height: number }) {
  const motion = isRow(piece["motion"]) ? piece["motion"] : {};
  const [x, y] = pair(piece, "at", [1, 1]);
  const line = (tx: number, ty: number, dash: string, words: string) => (
    <g aria-hidden data-motion={words}>
      <path
        d={`M${x} ${height - y}L${tx} ${height - ty}`}
        stroke="var(--pencil)"
        strokeWidth={0.09}
        strokeDasharray={dash}
      />
      <text x={(x + tx) / 2} y={height - (y + ty) / 2 - 0.25} className="pencil" style={{ fontSize: "0.75px" }}>
        {words}
      </text>
    </g>
  );
  for (const [name, value] of Object.entries(motion)) {
    const spec = isRow(value) ? value : {};
    if (name === "drifting") {
      const [vx, vy] = pair(spec, "velocity", [0, 0]);
      return line(x + vx, y + vy, "none", `${tidy(Math.hypot(vx, vy))} a second`);
    }
    if (name === "patrolling") {
      const [tx, ty] = pair(spec, "to", [x, y]);
      return line(tx, ty, "none", `${number(spec, "speed", 0)} a second`);
    }
    if (name === "following" || name === "attached") {
      const other = pieces.find((each) => text(each, "name") === text(spec, name === "following" ? "who" : "to"));
      if (other) {
        const [tx, ty] = pair(other, "at", [x, y]);
        return line(tx, ty, "0.3 0.3", name === "following" ? "follows" : "beside");
      }
    }
    if (name === "falling") return line(x, Math.max(y - 1.5, 0), "none", "falls");
    if (name === "steered") {
      const axes = text(spec, "axes", "both");
      return line(
        x + (axes === "y" ? 0 : 1.6),
        y + (axes === "x" ? 0 : 1.2),
        "none",
        `${number(spec, "speed", 6)} a second`,
      );
    }
  }
  return null;
}

function sceneView(settings: Settings | null, pieces: readonly Row[], pictures: readonly string[]): SceneView {
  const scene = sceneOf(settings);
  return {
    width: number(scene, "width", 32),
    height: number(scene, "height", 18),
    background: text(scene, "background") || null,
    places: [],
    pieces: pieces.map((piece) => ({
      name: text(piece, "name"),
      kind: text(piece, "kind", text(piece, "name")),
      at: pair(piece, "at", [0, 0]),
      look: "",
      facing: 0,
      hidden: false,
      size: pair(piece, "size", [1, 1]),
      solid: piece["solid"] === true,
      zone: piece["zone"] === true,
      keys: [],
    })),
    kinds: [],
    facts: [],
    own_looks: [...pictures],
  };
}

function momentOf(pieces: readonly Row[]): Moment {
  return {
    frame: 0,
    pieces: pieces.map((piece) => {
      const [x, y] = pair(piece, "at", [1, 1]);
      const kind = text(piece, "kind", text(piece, "name"));
      const looks = Array.isArray(piece["looks"]) ? (piece["looks"] as unknown[]) : [];
      const first = looks[0];
      return {
        name: text(piece, "name"),
        kind,
        x,
        y,
        look: text(piece, "look", typeof first === "string" ? first : kind),
        size: 1,
        opacity: piece["hidden"] === true ? 0.35 : 1,
        facing: number(piece, "facing", 0),
        carrying: null,
      };
    }),
    board: [],
    offers: [],
    questions: [],
    place: "",
    facts: {},
    telling: [],
  };
}
