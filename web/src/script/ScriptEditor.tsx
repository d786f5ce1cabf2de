import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { python } from "@codemirror/lang-python";
import { indentUnit, syntaxHighlighting } from "@codemirror/language";
import { type Extension, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, keymap, lineNumbers } from "@codemirror/view";
import CodeMirror, { type ReactCodeMirrorRef } from "@uiw/react-codemirror";
import { useEffect, useRef } from "react";

import { inks, sheet } from "./inks";

interface ScriptEditorProps {
  text: string;
  onChange: (text: string) => void;
  /** Lines that stopped the game or cannot be read. */
  wrong: readonly number[];
}

const setWrong = StateEffect.define<readonly number[]>();

const wrongLines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update: (before, transaction) => {
    const lines = transaction.effects.find((effect) => effect.is(setWrong))?.value;
    if (!lines) return before.map(transaction.changes);
    const builder = new RangeSetBuilder<Decoration>();
    for (const number of [...new Set(lines)].sort((a, b) => a - b)) {
      if (number < 1 || number > transaction.state.doc.lines) continue;
      const start = transaction.state.doc.line(number).from;
      builder.add(start, start, Decoration.line({ class: "hob-suspect" }));
    }
    return builder.finish();
  },
  provide: (field) => EditorView.decorations.from(field),
});

/** Tab stays a key of the page, so that nobody is caught in the editor; Enter keeps the indentation. */
const EXTENSIONS: Extension[] = [
  lineNumbers(),
  history(),
  keymap.of([...defaultKeymap.filter((each) => each.key !== "Mod-Enter"), ...historyKeymap]),
  python(),
  indentUnit.of("    "),
  syntaxHighlighting(inks),
  sheet,
  wrongLines,
  EditorView.contentAttributes.of({ "aria-label": "Script", tabindex: "0" }),
];

/** A script that is written. */
export default function ScriptEditor({ text, onChange, wrong }: ScriptEditorProps) {
  const editor = useRef<ReactCodeMirrorRef>(null);
  const lines = wrong.join(" ");
  useEffect(() => {
    const numbers = lines ? lines.split(" ").map(Number) : [];
    const view = editor.current?.view;
    const first = numbers.find((number) => number >= 1 && number <= (view?.state.doc.lines ?? 0));
    const look =
      first === undefined ? [] : [EditorView.scrollIntoView(view?.state.doc.line(first).from ?? 0, { y: "center" })];
    view?.dispatch({ effects: [setWrong.of(numbers), ...look] });
  }, [lines]);
  return (
    <CodeMirror
      ref={editor}
      value={text}
      height="100%"
      className="h-full"
      theme="none"
      basicSetup={false}
      indentWithTab={false}
      extensions={EXTENSIONS}
      onChange={onChange}
    />
  );
}
