import { python } from "@codemirror/lang-python";
import { syntaxHighlighting } from "@codemirror/language";
import { EditorState, type Extension, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import {
  Decoration,
  type DecorationSet,
  EditorView,
  GutterMarker,
  gutter,
  lineNumbers,
  WidgetType,
} from "@codemirror/view";
import { type MouseEvent, useEffect, useRef } from "react";

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
  /** Lines that are pointed at elsewhere. */
  tied: readonly number[];
  /** What the tests of some lines saw, to stand beside them. */
  values: ReadonlyMap<number, string>;
}

interface ScriptViewProps {
  text: string;
  marks: LineMarks;
  label: string;
  /** A line to bring into view when it changes. */
  reveal: number | null;
  /** Hears which line is pointed at, and that none is any more. */
  onLine?: (line: number | null) => void;
}

const setMarks = StateEffect.define<LineMarks>();
const NONE: LineMarks = { running: [], suspect: [], idle: [], counts: new Map(), tied: [], values: new Map() };

const marksField = StateField.define<LineMarks>({
  create: () => NONE,
  update: (marks, transaction) => transaction.effects.find((effect) => effect.is(setMarks))?.value ?? marks,
});

/** What a test saw, behind its line. */
class SeenValues extends WidgetType {
  constructor(private readonly words: string) {
    super();
  }
  override eq(other: SeenValues) {
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
    if (seen) builder.add(end, end, Decoration.widget({ widget: new SeenValues(seen), side: 1 }));
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
export default function ScriptView({ text, marks, label, reveal, onLine }: ScriptViewProps) {
  const parent = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  useEffect(() => {
    if (!parent.current) return;
    const made = new EditorView({
      parent: parent.current,
      state: EditorState.create({ doc: text, extensions: extensions(label) }),
    });
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
  const pointed = (event: MouseEvent<HTMLDivElement>) => {
    const editor = view.current;
    const place = editor?.posAtCoords({ x: event.clientX, y: event.clientY });
    onLine?.(editor && typeof place === "number" ? editor.state.doc.lineAt(place).number : null);
  };
  return (
    <div
      ref={parent}
      role="presentation"
      className="h-full min-h-0 overflow-hidden"
      onMouseMove={pointed}
      onMouseLeave={() => onLine?.(null)}
    />
  );
}
