/** How scripts look, read or written. */

import { HighlightStyle } from "@codemirror/language";
import { EditorView } from "@codemirror/view";
import { tags } from "@lezer/highlight";

export const inks = HighlightStyle.define([
  { tag: tags.keyword, fontWeight: "600" },
  { tag: tags.comment, color: "var(--pencil)", fontStyle: "italic" },
]);

export const sheet = EditorView.theme({
  "&": { height: "100%", backgroundColor: "transparent", color: "var(--ink)", fontSize: "0.86rem" },
  "&.cm-focused": { outline: "none" },
  ".cm-scroller": { fontFamily: '"Source Code Pro", monospace', lineHeight: "1.5" },
  ".cm-gutters": { backgroundColor: "transparent", color: "var(--pencil)", border: "none" },
  ".cm-line": { paddingLeft: "6px" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-selectionBackground, &.cm-focused .cm-selectionBackground": { backgroundColor: "var(--plum-tint) !important" },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "transparent" },
  ".hob-running": { backgroundColor: "var(--plum-tint)" },
  ".hob-suspect": { boxShadow: "inset 3px 0 0 var(--madder)" },
  ".hob-suspect:not(.hob-running)": { backgroundColor: "var(--madder-tint)" },
  ".hob-tied": { outline: "1.5px solid var(--plum)", outlineOffset: "-1px" },
  ".hob-seen": { marginLeft: "1.5ch", color: "var(--madder)", fontSize: "0.92em", whiteSpace: "pre" },
  ".hob-idle": { color: "var(--pencil)" },
  ".hob-often-gutter": { width: "30px" },
  ".hob-often": { display: "inline-block", height: "0.55em", backgroundColor: "var(--pencil)", opacity: "0.55" },
});
