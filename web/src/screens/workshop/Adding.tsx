import { useState } from "react";

import { LOOKS } from "../../scene/looks";
import { Word } from "./Fields";
import type { Chosen, Settings } from "./rows";
import { freeName, number, rowsOf, sceneOf } from "./rows";
import type { Hands } from "./useDraft";

/** How large a piece of a look is when it is taken; all others are a square. */
const SIZES: Readonly<Record<string, readonly [number, number]>> = {
  hob: [1.2, 1.6],
  oven: [5, 6],
  oven_lit: [5, 6],
  shelf: [6, 1.5],
  chimney: [4, 5],
  wall: [1, 8],
  hatch: [2, 3],
  bellows: [4, 3],
  sack: [2, 2.5],
  floor: [32, 1.2],
};

/** What comes where, and how it moves, when it is taken from the list. */
function pieceOf(look: string, settings: Settings | null): Record<string, unknown> {
  const pieces = rowsOf(settings, "piece");
  const width = number(sceneOf(settings), "width", 32);
  const size = SIZES[look] ?? [1, 1];
  const x = look === "floor" ? width / 2 : 4 + ((pieces.length * 3) % Math.max(width - 8, 4));
  return {
    name: freeName(pieces, look),
    ...(freeName(pieces, look) === look ? {} : { kind: look }),
    at: [x, look === "floor" ? 0.6 : 2],
    ...(size[0] === 1 && size[1] === 1 ? {} : { size: [...size] }),
    ...(look === "hob" ? { motion: { steered: { speed: 6, axes: "x" } } } : {}),
    ...(look === "floor" || look === "wall" ? { solid: true } : {}),
  };
}

interface AddingProps {
  settings: Settings | null;
  onChoose: (chosen: Chosen) => void;
  hands: Hands;
}

/** What can be put into the scene, in words; the looks stand in a line that is opened where it is needed. */
export function Adding({ settings, onChoose, hands }: AddingProps) {
  const [open, setOpen] = useState(false);
  const add = (table: Chosen["table"], row: Record<string, unknown>) => {
    const index = rowsOf(settings, table).length;
    void hands.change({ do: "add", table, row }).then((made) => made && onChoose({ table, index }));
  };
  return (
    <div className="text-sm">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-neutral">Add</span>
        <Word pressed={open} onClick={() => setOpen(!open)}>
          a piece
        </Word>
        <Word
          onClick={() =>
            add("piece", { name: freeName(rowsOf(settings, "piece"), "corner"), at: [16, 4], size: [4, 4], zone: true })
          }
        >
          a zone
        </Word>
        <Word
          onClick={() =>
            add("spawner", {
              name: freeName(rowsOf(settings, "spawner"), "chimney_top"),
              kind: "soot",
              every: 2,
              at: [[16, 16]],
              motion: { falling: {} },
            })
          }
        >
          a spawner
        </Word>
        <Word
          onClick={() => add("fact", { name: freeName(rowsOf(settings, "fact"), "draught"), start: 0, range: [0, 9] })}
        >
          a fact
        </Word>
        <Word onClick={() => add("variable", { name: freeName(rowsOf(settings, "variable"), "score"), start: 0 })}>
          a variable
        </Word>
        <Word onClick={() => add("craft", { expect: "uses if", marks: 1 })}>a craft line</Word>
      </div>
      {open ? (
        <ul className="flex flex-wrap gap-x-1 border-y border-base-300 py-1" aria-label="Looks">
          {Object.entries(LOOKS).map(([look, draw]) => (
            <li key={look}>
              <button
                type="button"
                className="flex min-h-6 items-center gap-1 px-1.5 hover:bg-base-200"
                onClick={() => {
                  setOpen(false);
                  add("piece", pieceOf(look, settings));
                }}
              >
                <svg viewBox="0 0 1 1" width="1.3em" height="1.3em" aria-hidden>
                  {draw()}
                </svg>
                {look}
              </button>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
