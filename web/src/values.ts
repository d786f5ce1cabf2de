/** Values of a trial as the API sends them: how they are looked up by frame and shown to people. */

export const FRAMES_PER_SECOND = 30;

export type History = readonly (readonly [frame: number, value: unknown])[];

export interface Unset {
  unset: true;
}

export function isUnset(value: unknown): value is Unset {
  return typeof value === "object" && value !== null && "unset" in value;
}

/** The value of a history in a frame: the last entry at or before it. */
export function valueAt(history: History | undefined, frame: number): unknown {
  const index = indexAt(history, frame);
  return index < 0 ? { unset: true } : history?.[index]?.[1];
}

/** What something that was to be predicted was in a frame; `told` is the last line that was told by then. */
export function foreseen(
  trial: {
    samples: Readonly<Record<string, History>>;
    trace: { story: readonly { frame: number; text: string }[] } | null;
  },
  name: string,
  frame: number,
): string {
  if (name !== "told") return show(valueAt(trial.samples[name], frame));
  return trial.trace?.story.filter((line) => line.frame <= frame).at(-1)?.text ?? "";
}

/** The index of the entry that holds in a frame, or -1 before the first. */
export function indexAt(history: History | undefined, frame: number): number {
  if (!history) return -1;
  let low = 0;
  let high = history.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((history[middle]?.[0] ?? Infinity) <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** A value in a few characters. */
export function show(value: unknown): string {
  if (isUnset(value) || value === undefined) return "unset";
  if (typeof value === "object" && value !== null && "text" in value) return String(value.text);
  if (typeof value === "number") return String(Math.round(value * 1000) / 1000);
  if (value === true) return "True";
  if (value === false) return "False";
  if (value === null) return "None";
  if (typeof value === "string") return value;
  return JSON.stringify(value);
}

export function same(a: unknown, b: unknown): boolean {
  return show(a) === show(b) && typeof a === typeof b;
}

export function seconds(frame: number): number {
  return frame / FRAMES_PER_SECOND;
}

/** What a trial is shown by: the frames of a game, or the steps of a script that runs from top to bottom. */
export type Unit = "frame" | "step";

/** `2.77 s`, or "reading" for the frame before the first; by steps `step 3`, or "the beginning". */
export function clock(frame: number, unit: Unit = "frame"): string {
  if (unit === "step") return frame <= 0 ? "the beginning" : `step ${frame}`;
  return frame < 0 ? "reading" : `${seconds(frame).toFixed(2)} s`;
}

/** A text of at most so many characters; what is cut off is marked. */
export function shorten(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, Math.max(most - 1, 1))}…` : text;
}

/** A text that begins a sentence, with its full stop. */
export function sentence(text: string): string {
  return text ? `${text[0]?.toUpperCase() ?? ""}${text.slice(1)}.` : "";
}

/** Marks without a needless fraction. */
export function marks(value: number): string {
  return Number.isInteger(value) ? String(value) : value.toFixed(1);
}

export function count(number: number, one: string, many = `${one}s`): string {
  return `${number} ${number === 1 ? one : many}`;
}
