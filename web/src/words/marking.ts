/** What the page for whoever looks after the server says of what marks. */

import { count } from "../values";

export const MARKING = {
  title: "What marks",
  none: "Nothing marks just now. A server does it by itself; ./hob worker does it on any machine.",
  doing: (texts: number) => (texts > 0 ? `marks ${count(texts, "script")} just now` : "waits for scripts"),
  done: (texts: number, since: string) => `${count(texts, "script")} since ${since}`,
  processes: (number: number) => count(number, "process", "processes"),
  stopped: "stopped",
  silent: (seconds: number) => `has said nothing for ${count(Math.round(seconds), "second")}`,
  lastError: "What went wrong last",
  stop: "stop it",
  goOn: "let it go on",
  rate: (texts: number) => `${count(texts, "script")} in the last minute`,
  waiting: "Waiting",
  desks: (texts: number) => `${texts} from desks`,
  handedIn: (texts: number) => `${texts} handed in`,
  again: (texts: number) => `${texts} from rounds`,
} as const;
