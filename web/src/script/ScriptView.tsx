import { python } from "@codemirror/lang-python";
import { syntaxHighlighting } from "@codemirror/language";
import { EditorState, type Extension, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, GutterMarker, gutter, lineNumbers } from "@codemirror/view";
import { useEffect, useRef } from "react";

import { inks, sheet } from "./inks";

export interface LineMarks {
  /** Lines that ran in the frame that is shown. */
  running: readonly number[];
  /** Lines that a finding speaks of. */
  suspect: readonly number[];
  /** Lines that never ran in this trial. */
  idle: readonly number[];
  /** How often each line ran in this trial. */
  counts: ReadonlyMap<number, number>;
}

interface ScriptViewProps {
  text: string;
  marks: LineMarks;
  label: string;
  /** A line to bring into view when it changes. */
  reveal: number | null;
}

const setMarks = StateEffect.define<LineMarks>();
const NONE: LineMarks = { running: [], suspect: [], idle: [], counts: new Map() };

const marksField = StateField.define<LineMarks>({
  create: () => NONE,
  update: (marks, transaction) => transaction.effects.find((effect) => effect.is(setMarks))?.value ?? marks,
});

const lineLooks = EditorView.decorations.compute([marksField, "doc"], (state): DecorationSet => {
  const marks = state.field(marksField);
  const builder = new RangeSetBuilder<Decoration>();
  for (let number = 1; number <= state.doc.lines; number += 1) {
    const classes = [
      marks.running.includes(number) ? "hob-running" : "",
      marks.suspect.includes(number) ? "hob-suspect" : "",
      marks.idle.includes(number) ? "hob-idle" : "",
    ].filter(Boolean);
    const start = state.doc.line(number).from;
    if (classes.length) builder.add(start, start, Decoration.line({ class: classes.join(" ") }));
  }
  return builder.finish();
});

/** A bar beside a line: how often it ran, each further step of length ten times as often. */
class OftenMarker extends GutterMarker {
  constructor(private readonly often: number) {
    super();
  }
  override eq(other: OftenMarker) {
    return other.often === this.often;
  }
  override toDOM() {
    const bar = document.createElement("span");
    bar.className = "hob-often";
    bar.style.width = `${Math.min(4 + 7 * Math.log10(this.often), 26)}px`;
    bar.title = `ran ${this.often} ${this.often === 1 ? "time" : "times"}`;
    return bar;
  }
}

const oftenGutter = gutter({
  class: "hob-often-gutter",
  lineMarker: (view, block) => {
    const often = view.state.field(marksField).counts.get(view.state.doc.lineAt(block.from).number);
    return often ? new OftenMarker(often) : null;
  },
  lineMarkerChange: (update) => update.startState.field(marksField) !== update.state.field(marksField),
});

const extensions = (label: string): Extension[] => [
  lineNumbers(),
  marksField,
  oftenGutter,
  lineLooks,
  python(),
  syntaxHighlighting(inks),
  sheet,
  EditorState.readOnly.of(true),
  EditorView.editable.of(false),
  EditorView.contentAttributes.of({ "aria-label": label, "aria-readonly": "true", "aria-multiline": "true" }),
];

/** A script that is read, not written: with the lines that ran, and how often. */
export default function ScriptView({ text, marks, label, reveal }: ScriptViewProps) {
  const parent = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  useEffect(() => {
    if (!parent.current) return;
    const made = new EditorView({ parent: parent.current, state: EditorState.create({ doc: text, extensions: extensions(label) }) });
    made.scrollDOM.tabIndex = 0; // so that it can be scrolled by keyboard
    view.current = made;
    return () => made.destroy();
  }, [text, label]);
  useEffect(() => {
    view.current?.dispatch({ effects: setMarks.of(marks) });
  }, [marks, text, label]);
  useEffect(() => {
    const editor = view.current;
    if (!editor || reveal === null || reveal < 1 || reveal > editor.state.doc.lines) return;
    editor.dispatch({ effects: EditorView.scrollIntoView(editor.state.doc.line(reveal).from, { y: "center" }) });
  }, [reveal, text]);
  return <div ref={parent} className="h-full min-h-0 overflow-hidden" />;
}
