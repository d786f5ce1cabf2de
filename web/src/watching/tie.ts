/** What ties lines, moments and pins of one finding together. */

import type { TraceView } from "../api/client";

/** The lines and frames that are pointed at, in script and strip at once. */
export interface Tie {
  lines: readonly number[];
  frames: readonly number[];
}

const MOST = 40; // moments of a line that are told apart; a line of every frame has hundreds

/** The frames in which a line began to run, the first ones of many. */
export function momentsOf(trace: TraceView, line: number): number[] {
  return (trace.lines[String(line)] ?? []).map(([first]) => Math.max(first, 0)).slice(0, MOST);
}

/** The values that the tests of some lines saw last, up to a frame, as words to stand beside each line. */
export function valuesAt(
  trace: TraceView,
  lines: readonly number[],
  frame: number,
  show: (value: unknown) => string,
): Map<number, string> {
  const words = new Map<number, string>();
  for (const line of lines) {
    const asked = trace.tests.filter((test) => test.line === line);
    const test = asked.filter((each) => each.frame <= frame).at(-1) ?? asked[0];
    if (test) {
      const parts = test.parts.map((part) => `${part.text} was ${show(part.value)}`);
      words.set(line, `${parts.join(", ")}${parts.length ? ": " : ""}${test.answer ? "yes" : "no"}`);
    }
  }
  return words;
}
