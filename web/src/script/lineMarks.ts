/** What a run says of the lines of a script, beside and behind them. */

import { type Extension, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, WidgetType } from "@codemirror/view";

export interface LineMarks {
  /** Lines that ran in the frame that is shown. */
  running: readonly number[];
  /** Lines that a finding speaks of, that stopped a game, or that cannot be read. */
  suspect: readonly number[];
  /** Lines that never ran in this trial. */
  idle: readonly number[];
  /** How often each line ran in this trial. */
  counts: ReadonlyMap<number, number>;
  /** Lines that are pointed at elsewhere. */
  tied: readonly number[];
  /** What is to stand behind some lines: what their tests saw, or what is wrong with them. */
  values: ReadonlyMap<number, string>;
}

export const setMarks = StateEffect.define<LineMarks>();
export const NO_MARKS: LineMarks = {
  running: [],
  suspect: [],
  idle: [],
  counts: new Map(),
  tied: [],
  values: new Map(),
};

export const marksField = StateField.define<LineMarks>({
  create: () => NO_MARKS,
  update: (marks, transaction) => transaction.effects.find((effect) => effect.is(setMarks))?.value ?? marks,
});

/** Words behind a line. */
class BehindLine extends WidgetType {
  constructor(private readonly words: string) {
    super();
  }
  override eq(other: BehindLine) {
    return other.words === this.words;
  }
  override toDOM() {
    const seen = document.createElement("span");
    seen.className = "hob-seen";
    seen.textContent = this.words;
    return seen;
  }
}

const lineLooks = EditorView.decorations.compute([marksField, "doc"], (state): DecorationSet => {
  const marks = state.field(marksField);
  const builder = new RangeSetBuilder<Decoration>();
  for (let number = 1; number <= state.doc.lines; number += 1) {
    const classes = [
      marks.running.includes(number) ? "hob-running" : "",
      marks.suspect.includes(number) ? "hob-suspect" : "",
      marks.idle.includes(number) ? "hob-idle" : "",
      marks.tied.includes(number) ? "hob-tied" : "",
    ].filter(Boolean);
    const { from: start, to: end } = state.doc.line(number);
    if (classes.length) builder.add(start, start, Decoration.line({ class: classes.join(" ") }));
    const seen = marks.values.get(number);
    if (seen) builder.add(end, end, Decoration.widget({ widget: new BehindLine(seen), side: 1 }));
  }
  return builder.finish();
});

export const lineMarks: Extension = [marksField, lineLooks];
