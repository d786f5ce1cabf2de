import { python } from "@codemirror/lang-python";
import { syntaxHighlighting } from "@codemirror/language";
import { EditorState, type Extension } from "@codemirror/state";
import { EditorView, GutterMarker, gutter, lineNumbers } from "@codemirror/view";
import { type MouseEvent, useEffect, useRef } from "react";

import { inks, sheet } from "./inks";
import { type LineMarks, lineMarks, marksField, setMarks } from "./lineMarks";

interface ScriptViewProps {
  text: string;
  marks: LineMarks;
  label: string;
  /** A line to bring into view when it changes. */
  reveal: number | null;
  /** Hears which line is pointed at, and that none is any more. */
  onLine?: (line: number | null) => void;
}

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
  lineMarks,
  oftenGutter,
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
