/** Where everything of a strip stands: lanes from the top, pins on the lane that they are about. */

import { max, min } from "d3-array";
import { scaleLinear } from "d3-scale";

import type { VerdictView } from "../api/client";
import { FRAMES_PER_SECOND, type History, isUnset, seconds, show } from "../values";
import type { ShownTrial } from "./steps";

export interface Lane {
  kind: "player" | "came" | "place" | "asked" | "answered" | "told" | "variable" | "outcome";
  name: string;
  top: number;
  height: number;
}

export interface Layout {
  width: number;
  height: number;
  left: number;
  axis: number;
  lanes: Lane[];
  x: (frame: number) => number;
  frameAt: (x: number) => number;
  ticks: Tick[];
}

const AXIS = 24;
const HEIGHTS = { player: 32, came: 32, place: 30, asked: 30, answered: 30, told: 44, outcome: 64 } as const;
/** What all variables may take together before their lanes become lower: the scene needs the rest of the window. */
const VARIABLES = 210;
const TALLEST = 74;
const LOWEST = 40;
const NOTCH = 22;
/** An outcome without the reference's below it. */
const ALONE = 46;

/** The layout for a width in pixels; `rem` is the size of the page's letters in pixels. */
export function layoutOf(trial: ShownTrial, width: number, rem: number): Layout {
  const unit = rem / 16;
  const left = 104 * unit;
  // a step's words stand to the right of it, so the last one needs room
  const right = (trial.unit === "step" ? 120 : 26) * unit;
  const x = scaleLinear([0, Math.max(trial.last_frame, 1)], [left, Math.max(width - right, left + 10)]);
  const variableHeight = Math.max(Math.min(VARIABLES / Math.max(trial.variables.length, 1), TALLEST), LOWEST);
  const lanes: Lane[] = [];
  let top = AXIS * unit;
  const add = (kind: Lane["kind"], name: string) => {
    const height =
      (kind === "variable" ? variableHeight : kind === "outcome" && !trial.reference ? ALONE : HEIGHTS[kind]) * unit;
    lanes.push({ kind, name, top, height });
    top += height;
  };
  if (trial.unit === "step") {
    for (const kind of ["asked", "answered", "told"] as const) add(kind, kind);
  } else {
    add("player", "player");
    add("came", "what came");
  }
  if (trial.scene.places.length > 0 || (trial.asides?.places.length ?? 0) > 0) add("place", "place");
  for (const variable of trial.variables) add("variable", variable.name);
  add("outcome", "outcome");
  const ticks = trial.unit === "step" ? stepTicks(trial.last_frame) : secondTicks(trial.last_frame);
  return {
    width,
    height: top + (trial.reference ? NOTCH : 2) * unit,
    left,
    axis: AXIS * unit,
    lanes,
    x,
    frameAt: (at) => Math.round(x.invert(at)),
    ticks,
  };
}

export interface Tick {
  frame: number;
  words: string;
}

function secondTicks(last: number): Tick[] {
  const length = seconds(last);
  const step = length > 60 ? 10 : length > 24 ? 5 : length > 12 ? 2 : 1;
  return Array.from({ length: Math.floor(length / step + 1e-9) + 1 }, (_, index) => ({
    frame: index * step * FRAMES_PER_SECOND,
    words: index === 0 ? "0 s" : String(index * step),
  }));
}

function stepTicks(last: number): Tick[] {
  const step = last > 60 ? 10 : last > 24 ? 5 : 1;
  return Array.from({ length: Math.floor(last / step) + 1 }, (_, index) => ({
    frame: index * step,
    words: index === 0 ? "step" : String(index * step),
  }));
}

/** The height of each value in a lane: numbers by their size, anything else by its order of coming. */
export function heightsOf(lane: Lane, histories: readonly History[]): (value: unknown) => number {
  const values = histories.flatMap((history) => history.map(([, value]) => value)).filter((value) => !isUnset(value));
  const top = lane.top + lane.height * 0.3;
  const bottom = lane.top + lane.height - 10;
  const numbers = values.filter((value): value is number => typeof value === "number");
  if (numbers.length === values.length && numbers.length > 0) {
    const low = min(numbers) ?? 0;
    const high = max(numbers) ?? 1;
    if (high === low) return () => (top + bottom) / 2;
    const scale = scaleLinear([low, high], [bottom, top]);
    return (value) => scale(value as number);
  }
  const order = [...new Set(values.map(show))];
  const scale = scaleLinear([0, Math.max(order.length - 1, 1)], [bottom, top]);
  return (value) => scale(Math.max(order.indexOf(show(value)), 0));
}

export interface Pin {
  check: number;
  verdict: VerdictView;
  x: number;
  y: number;
  from: number;
  to: number;
  lane: Lane;
}

/** The pins of all checks; those that would touch stand in rows. */
export function pinsOf(trial: ShownTrial, layout: Layout, rem: number): Pin[] {
  const apart = rem;
  const last = new Map<string, number[]>();
  const pins = trial.checks.map((verdict, check) => {
    const lane = laneOf(verdict, trial, layout);
    const frame = verdict.frame ?? verdict.span[1];
    const x = layout.x(Math.min(frame, trial.last_frame));
    return { check, verdict, x, y: 0, from: layout.x(verdict.span[0]), to: layout.x(verdict.span[1]), lane };
  });
  for (const pin of [...pins].sort((a, b) => a.x - b.x)) {
    const rows = last.get(pin.lane.name) ?? [];
    let row = rows.findIndex((end) => pin.x - end >= apart);
    if (row < 0) row = rows.length;
    rows[row] = pin.x;
    last.set(pin.lane.name, rows);
    pin.y = pin.lane.top + apart * 0.55 + row * apart * 0.8;
  }
  return pins;
}

/** The lane that a check is about: its first variable or label, the outcome, else what came. */
function laneOf(verdict: VerdictView, trial: ShownTrial, layout: Layout): Lane {
  const find = (name: string) => layout.lanes.find((lane) => lane.name === name);
  const fallback = find(trial.unit === "step" ? "told" : "what came");
  for (const about of verdict.about) {
    const label = /^board\("(.*)"\)$/.exec(about)?.[1];
    const variable = label === undefined ? about : trial.variables.find((each) => each.label === label)?.name;
    const lane = variable === undefined ? undefined : find(variable);
    if (lane) return lane;
  }
  if (!fallback) throw new Error("a strip has a lane for what came");
  return fallback;
}
