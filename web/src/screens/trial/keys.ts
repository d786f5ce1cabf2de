/** The keys of the Trial. */

import type { KeyHelp } from "../../shell/Shell";

export const KEYS: readonly KeyHelp[] = [
  { keys: "space", does: "plays and pauses" },
  { keys: "← →", does: "one frame back, one frame on" },
  { keys: "shift ← →", does: "to the previous or next change" },
  { keys: "b", does: "to the next broken check" },
  { keys: "w", does: "words of help: one step more, then none" },
  { keys: "Home, End", does: "to the beginning, to the end" },
];
