/** What a trace says of the lines of a script. */

import type { TraceView } from "../api/client";

/** How often each line ran in the whole trial. */
export function lineCounts(trace: TraceView): Map<number, number> {
  return new Map(
    Object.entries(trace.lines).map(([line, spans]) => [
      Number(line),
      spans.reduce((sum, [, , count]) => sum + count, 0),
    ]),
  );
}

/** The lines that ran in a frame; in frame 0 those of the reading too. */
export function linesIn(trace: TraceView, frame: number): number[] {
  return Object.entries(trace.lines)
    .filter(([, spans]) => spans.some(([first, last]) => first <= frame && frame <= last))
    .map(([line]) => Number(line));
}

/** Lines with something on them that never ran. */
export function idleLines(source: string, counts: ReadonlyMap<number, number>): number[] {
  return source
    .split("\n")
    .map((text, index) => ({ text: text.trim(), line: index + 1 }))
    .filter(({ text, line }) => text !== "" && !/^(#|@|def |global |else:|""")/.test(text) && !counts.has(line))
    .map(({ line }) => line);
}
