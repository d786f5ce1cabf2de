/** A text that is kept on the server a second later, and in this browser until it is there. */

import { useCallback, useEffect, useRef, useState } from "react";

import { type DeskText, type ProblemReport, ServerError } from "../../api/client";
import { keepText } from "../../api/desk";

export type Keeping = "kept" | "writing" | "away" | "clash" | "refused";

export interface Kept {
  text: string;
  write: (text: string) => void;
  state: Keeping;
  /** When it was kept last, in milliseconds; 0 where it was not changed yet. */
  since: number;
  problems: readonly ProblemReport[];
  /** Why it is not kept, where the server does not want it. */
  why: string;
  /** The text of another window, where both changed. */
  other: DeskText | null;
  choose: (mine: boolean) => void;
}

const QUIET = 700; // milliseconds without a change after which it is sent
const AGAIN = 2000; // milliseconds after which it is sent again where the server did not answer

interface Begun {
  text: string;
  at: number;
  other: DeskText | null;
}

/** `owner` tells whose text it is: a browser at school is used by many. */
export function useKept(round: number, owner: string, first: DeskText): Kept {
  const place = `hob-desk ${owner} ${round}`;
  const [begun] = useState(() => begin(place, first));
  const [text, setText] = useState(begun.text);
  const [state, setState] = useState<Keeping>(begun.other ? "clash" : begun.text === first.source ? "kept" : "writing");
  const [since, setSince] = useState(0);
  const [problems, setProblems] = useState<readonly ProblemReport[]>([]);
  const [why, setWhy] = useState("");
  const [other, setOther] = useState(begun.other);
  const now = useRef({ text: begun.text, at: begun.at, sending: false, timer: 0 });

  const send = useRef<() => Promise<void>>(() => Promise.resolve());
  const later = useCallback((wait: number) => {
    window.clearTimeout(now.current.timer);
    now.current.timer = window.setTimeout(() => void send.current(), wait);
  }, []);
  useEffect(() => {
    send.current = async () => {
      const held = now.current;
      if (held.sending) {
        later(QUIET);
        return;
      }
      held.sending = true;
      const source = held.text;
      try {
        const kept = await keepText(round, source, held.at);
        held.at = kept.at;
        if (held.text !== source) {
          later(QUIET);
          return;
        }
        window.localStorage.removeItem(place);
        setProblems(kept.problems);
        setSince(Date.now());
        setState("kept");
      } catch (error) {
        const met = error instanceof ServerError ? otherText(error) : null;
        if (met) {
          setOther(met);
          setState("clash");
        } else if (error instanceof ServerError && error.status >= 400 && ![401, 500, 503].includes(error.status)) {
          setWhy(error.message);
          setState("refused");
        } else {
          setState("away");
          later(AGAIN);
        }
      } finally {
        held.sending = false;
      }
    };
  }, [later, place, round]);
  useEffect(() => {
    const held = now.current;
    if (begun.text !== first.source && !begun.other) later(0);
    return () => window.clearTimeout(held.timer);
    // only once: what came first is what the page was opened with
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => {
    const online = () => later(0);
    if (state === "away") window.addEventListener("online", online);
    return () => window.removeEventListener("online", online);
  }, [state, later]);

  const write = useCallback(
    (changed: string) => {
      if (changed === now.current.text) return;
      now.current.text = changed;
      window.localStorage.setItem(place, JSON.stringify({ source: changed, at: now.current.at }));
      setText(changed);
      setState((before) => (before === "clash" ? before : "writing"));
      if (!other) later(QUIET);
    },
    [later, other, place],
  );
  const choose = useCallback(
    (mine: boolean) => {
      if (!other) return;
      now.current.at = other.at;
      setOther(null);
      if (mine) {
        setState("writing");
        later(0);
        return;
      }
      now.current.text = other.source;
      window.localStorage.removeItem(place);
      setText(other.source);
      setState("kept");
    },
    [later, other, place],
  );
  return { text, write, state, since, problems, why, other, choose };
}

/** What this browser still has, against what the server has. */
function begin(place: string, first: DeskText): Begun {
  const mine = remembered(place);
  if (!mine || mine.source === first.source) return { text: first.source, at: first.at, other: null };
  return { text: mine.source, at: first.at, other: mine.at === first.at ? null : first };
}

function remembered(place: string): { source: string; at: number } | null {
  try {
    const found: unknown = JSON.parse(window.localStorage.getItem(place) ?? "null");
    const { source, at } = (found ?? {}) as { source?: unknown; at?: unknown };
    return typeof source === "string" && typeof at === "number" ? { source, at } : null;
  } catch {
    return null;
  }
}

function otherText(error: ServerError): DeskText | null {
  return error.status === 409 ? ((error.body as { text?: DeskText } | null)?.text ?? null) : null;
}
