import { autocompletion, completionKeymap, startCompletion } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { python } from "@codemirror/lang-python";
import { indentUnit, syntaxHighlighting } from "@codemirror/language";
import { Compartment, type Extension } from "@codemirror/state";
import { EditorView, keymap, lineNumbers } from "@codemirror/view";
import CodeMirror, { type ReactCodeMirrorRef } from "@uiw/react-codemirror";
import { useEffect, useRef } from "react";

import { inks, sheet } from "./inks";
import { type LineMarks, lineMarks, setMarks } from "./lineMarks";
import type { Word } from "./sheet";

interface ScriptEditorProps {
  text: string;
  onChange: (text: string) => void;
  /** What is to be seen of a run or of the reading, line by line. */
  marks: LineMarks;
  /** A line to bring into view when it changes. */
  reveal?: number | null;
  /** Words that can be asked for: names of the exercise, events, calls. */
  words?: readonly Word[];
  /** Counts how often the words were asked for from outside. */
  asked?: number;
}

const NO_WORDS: readonly Word[] = [];
const completion = new Compartment();

/** Tab stays a key of the page, so that nobody is caught in the editor; Enter keeps the indentation. */
const EXTENSIONS: Extension[] = [
  lineNumbers(),
  history(),
  keymap.of([
    ...completionKeymap,
    ...defaultKeymap.filter((each) => each.key !== "Mod-Enter" && each.key !== "Shift-Mod-Enter"),
    ...historyKeymap,
  ]),
  python(),
  indentUnit.of("    "),
  syntaxHighlighting(inks),
  sheet,
  lineMarks,
  completion.of([]),
  EditorView.contentAttributes.of({ "aria-label": "Script", tabindex: "0" }),
];

/** The words come only when they are asked for, by ctrl space or from outside. */
const offering = (words: readonly Word[]) =>
  autocompletion({
    activateOnTyping: false,
    icons: false,
    override: [
      (context) => {
        const before = context.matchBefore(/[\w.]*/);
        return {
          from: before?.from ?? context.pos,
          options: words.map(({ text, does }) => ({ label: text, detail: does })),
          validFor: /^[\w.]*$/,
        };
      },
    ],
  });

/** A script that is written. */
export default function ScriptEditor({
  text,
  onChange,
  marks,
  reveal = null,
  words = NO_WORDS,
  asked = 0,
}: ScriptEditorProps) {
  const editor = useRef<ReactCodeMirrorRef>(null);
  useEffect(() => {
    editor.current?.view?.dispatch({ effects: setMarks.of(marks) });
  }, [marks]);
  useEffect(() => {
    const view = editor.current?.view;
    if (!view || reveal === null || reveal < 1 || reveal > view.state.doc.lines) return;
    view.dispatch({ effects: EditorView.scrollIntoView(view.state.doc.line(reveal).from, { y: "center" }) });
  }, [reveal]);
  const offer = (view: EditorView | undefined) =>
    view?.dispatch({ effects: completion.reconfigure(words.length ? offering(words) : []) });
  const latest = useRef(offer);
  useEffect(() => {
    latest.current = offer;
    offer(editor.current?.view);
  });
  useEffect(() => {
    const view = editor.current?.view;
    if (!asked || !view) return;
    view.focus();
    startCompletion(view);
  }, [asked]);
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
      onCreateEditor={(view) => {
        view.dispatch({ effects: setMarks.of(marks) });
        latest.current(view);
      }}
    />
  );
}
