/** Everything that a scene shows in one frame, whether it is read off a trace or played by hand. */

import type { AsidesView, SceneView, TraceView } from "../api/client";
import { FRAMES_PER_SECOND, indexAt, valueAt } from "../values";

export interface Stand {
  name: string;
  kind: string;
  x: number;
  y: number;
  look: string;
  size: number;
  opacity: number;
  facing: number;
  carrying: string | null;
}

export interface BoardEntry {
  label: string;
  value: unknown;
  at: readonly [number, number] | null;
}

export interface Moment {
  frame: number;
  pieces: readonly Stand[];
  board: readonly BoardEntry[];
  offers: readonly string[];
  questions: readonly string[];
  place: string;
  facts: Readonly<Record<string, unknown>>;
  /** What pieces tell just now. */
  telling: readonly { who: string; text: string }[];
}

/** Frames for which what a piece tells stands beside it. */
export const TELLING = 2 * FRAMES_PER_SECOND;

/** A trial's scene as it stood in a frame. */
export function momentAt(scene: SceneView, trace: TraceView, asides: AsidesView, frame: number): Moment {
  const until = <Entry extends { frame: number }>(entries: readonly Entry[]) =>
    entries.filter((each) => each.frame <= frame);
  const facts: Record<string, unknown> = Object.fromEntries(scene.facts.map((fact) => [fact.name, fact.start]));
  for (const change of until(asides.facts)) facts[change.name] = change.value;
  const offers = new Set<string>();
  for (const offer of until(trace.offers)) {
    if (offer.value) offers.add(offer.label);
    else offers.delete(offer.label);
  }
  const answered = trace.events.filter((event) => event.event.kind === "replied" && event.frame <= frame).length;
  return {
    frame,
    pieces: standing(trace, frame),
    board: boardAt(asides, frame),
    offers: [...offers],
    questions: until(asides.questions)
      .map((asked) => asked.text)
      .slice(answered),
    place: until(asides.places).at(-1)?.place ?? "",
    facts,
    telling: trace.story.filter((line) => line.who && line.frame <= frame && line.frame > frame - TELLING),
  };
}

/** The scene as it is set up, before anything happens. */
export function opening(scene: SceneView): Moment {
  return {
    frame: 0,
    pieces: scene.pieces
      .filter((each) => !each.hidden)
      .map(({ name, kind, at: [x, y], look, facing }) => ({
        ...{ name, kind, x, y, look, facing },
        ...{ size: 1, opacity: 1, carrying: null },
      })),
    board: [],
    offers: [],
    questions: [],
    place: scene.places[0] ?? "",
    facts: Object.fromEntries(scene.facts.map((fact) => [fact.name, fact.start])),
    telling: [],
  };
}

function standing(trace: TraceView, frame: number): Stand[] {
  const stands: Stand[] = [];
  for (const [name, track] of Object.entries(trace.pieces)) {
    if (indexAt(track["x"], frame) < 0) continue;
    if (valueAt(track["removed"], frame) === true || valueAt(track["visible"], frame) === false) continue;
    const carrying = valueAt(track["carrying"], frame);
    stands.push({
      name,
      kind: kindOf(track["kind"]?.[0]?.[1]) ?? name,
      x: Number(valueAt(track["x"], frame)),
      y: Number(valueAt(track["y"], frame)),
      look: String(valueAt(track["look"], frame)),
      size: Number(valueAt(track["size"], frame)),
      opacity: Number(valueAt(track["opacity"], frame)),
      facing: Number(valueAt(track["facing"], frame)),
      carrying: typeof carrying === "string" ? carrying : null,
    });
  }
  return stands;
}

function kindOf(value: unknown): string | undefined {
  return typeof value === "string" ? value : undefined;
}

/** What the scoreboard shows in a frame, in the order in which labels came. */
function boardAt(asides: AsidesView, frame: number): BoardEntry[] {
  const shown = new Map<string, BoardEntry>();
  for (const each of asides.board)
    if (each.frame <= frame) shown.set(each.label, { label: each.label, value: each.value, at: each.at });
  return [...shown.values()];
}
