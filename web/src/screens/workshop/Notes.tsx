import { useQuery } from "@tanstack/react-query";

import { suggestionsQuery } from "../../api/queries";
import { Button } from "../../shell/Button";
import { clock, count } from "../../values";
import { Choice, Field, NumberField, Word } from "./Fields";
import type { Row, Settings } from "./rows";
import { number, rowsOf, text } from "./rows";
import type { Hands } from "./useDraft";

export interface Asking {
  what: string;
  first: number;
  last: number;
}

interface SuggestionsProps {
  id: number;
  at: number;
  scenario: number;
  asking: Asking;
  settings: Settings | null;
  /** Whether the script runs from top to bottom: asked is how it ends. */
  straight: boolean;
  hands: Hands;
  onDone: (check: number | null) => void;
}

const LANES: Readonly<Record<string, string>> = { "what came": "came", player: "came", told: "told" };

/** What is true at a moment, each of it a check: the most telling first. */
export function Suggestions({ id, at, scenario, asking, settings, straight, hands, onDone }: SuggestionsProps) {
  const what = LANES[asking.what] ?? asking.what;
  const found = useQuery(suggestionsQuery(id, at, { scenario, what, first: asking.first, last: asking.last }));
  const span = asking.last > asking.first;
  const moment = span ? `From ${clock(asking.first)} to ${clock(asking.last)}` : `At ${clock(asking.first)}`;
  const when = straight ? "At the end" : moment;
  const pin = (check: Row) => {
    const place = rowsOf(settings, "check", scenario).length;
    void hands
      .change({ do: "add", table: "check", scenario, row: { ...check, marks: 1, ...conceptOf(check, settings) } })
      .then((done) => onDone(done ? place : null));
  };
  return (
    <section
      aria-label="What must be so"
      className="absolute right-4 bottom-4 z-10 max-h-full w-[30rem] overflow-auto border border-primary bg-(--sheet) p-3 text-sm"
      data-suggestions
    >
      <h3 className="mb-1 font-bold">{when}: what must be so?</h3>
      {found.isPending ? (
        <p role="status" className="text-neutral">
          Looking what is true there …
        </p>
      ) : found.isError ? (
        <p role="alert" className="text-error">
          {found.error.message}
        </p>
      ) : found.data.length === 0 ? (
        <p className="text-neutral">Nothing that is not checked already.</p>
      ) : (
        <ul>
          {found.data.map((each) => (
            <li key={each.words} className="flex items-baseline justify-between gap-3">
              <Word onClick={() => pin(each.check)}>{each.words}</Word>
              <span className="shrink-0 text-neutral">
                {each.breaks ? `shows ${count(each.breaks, "mistake")}` : "shows none of the mistakes tried"}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="mt-2 flex gap-4">
        <Word
          onClick={() => pin(span ? { always: true, expect: "True" } : { at: seconds(asking.first), expect: "True" })}
        >
          one that I write
        </Word>
        <Word onClick={() => onDone(null)}>close</Word>
      </p>
    </section>
  );
}

function seconds(frame: number): number {
  return Math.round((frame / 30) * 100) / 100;
}

/** What a check is for, as long as nobody has said so: the outcome is decided, events come, variables are kept. */
function conceptOf(check: Row, settings: Settings | null): Row {
  const expect = text(check, "expect");
  const known = Array.isArray(settings?.["concepts"])
    ? (settings["concepts"] as unknown[]).map(String)
    : ["variables", "events", "conditionals"];
  const concept = /outcome/.test(expect)
    ? "conditionals"
    : check["each"] !== undefined || check["after"] !== undefined
      ? "events"
      : "variables";
  return known.includes(concept) ? { concept } : {};
}

const KINDS = ["at", "after", "by", "always", "never", "each", "same", "unchanged", "end", "apart"] as const;

/** Kinds that a check can become without more than a time. */
const PLAIN_KINDS = ["at", "by", "always", "never", "end"] as const;

/** What goes with another kind only. */
const TIED: readonly string[] = ["nth", "later", "within", "from", "until"];

/** A check as one of another kind, with all that it asks and is worth. */
function asKind(row: Row, kind: string, other: (typeof KINDS)[number]): Row {
  const kept = Object.entries(row).filter(([key]) => key !== kind && !TIED.includes(key));
  const moment = kind === "at" || kind === "by" ? number(row, kind, 1) : 1;
  return { [other]: other === "at" || other === "by" ? moment : true, ...Object.fromEntries(kept) };
}

interface CheckNoteProps {
  settings: Settings | null;
  scenario: number;
  index: number;
  said: string | null;
  hands: Hands;
  onDone: () => void;
}

/** A pinned check: everything that it says can be written here. */
export function CheckNote({ settings, scenario, index, said, hands, onDone }: CheckNoteProps) {
  const row = rowsOf(settings, "check", scenario)[index];
  if (!row) return null;
  const kind = "apart" in row ? "apart" : (KINDS.find((each) => each in row) ?? "end");
  const set = (keys: Record<string, unknown>) =>
    void hands.change({ do: "change", table: "check", index, scenario, keys });
  const concepts = Array.isArray(settings?.["concepts"])
    ? (settings["concepts"] as unknown[]).map(String)
    : ["variables", "events", "conditionals"];
  const value = row[kind];
  return (
    <section
      aria-label="A check"
      className="absolute right-4 bottom-4 z-10 flex w-[34rem] flex-wrap items-baseline gap-x-4 gap-y-1.5 border border-primary bg-(--sheet) p-3 text-sm"
      data-check-note
    >
      <Choice
        label="when"
        value={kind}
        options={[...new Set([kind, ...(row["expect"] === undefined ? [] : PLAIN_KINDS)])].map((each) => ({
          value: each,
          words: each,
        }))}
        onSay={(other) =>
          void hands.change({ do: "replace", table: "check", index, scenario, row: asKind(row, kind, other) })
        }
      />
      {kind === "at" || kind === "by" ? (
        <NumberField label="seconds" value={number(row, kind, 0)} onSay={(at) => set({ [kind]: at })} />
      ) : kind === "apart" ? (
        <>
          <NumberField label="seconds" value={number(row, kind, 0.5)} onSay={(apart) => set({ apart })} />
          <Field label="what comes" value={text(row, "each")} wide={18} onSay={(event) => set({ each: event })} />
        </>
      ) : kind === "after" || kind === "each" ? (
        <Field label="what comes" value={text(row, kind)} wide={18} onSay={(event) => set({ [kind]: event })} />
      ) : (
        <span className="font-bold">{Array.isArray(value) ? (value as unknown[]).join(", ") : ""}</span>
      )}
      {kind === "after" ? (
        <NumberField label="for the nth time" value={number(row, "nth", 1)} onSay={(nth) => set({ nth })} />
      ) : null}
      {kind === "same" || kind === "unchanged" || kind === "apart" ? null : (
        <Field label="must be so" value={text(row, "expect")} wide={34} onSay={(expect) => set({ expect })} />
      )}
      <NumberField label="marks" value={number(row, "marks", 1)} onSay={(worth) => set({ marks: worth })} wide={3} />
      <Choice
        label="for"
        value={text(row, "concept")}
        options={["", ...concepts].map((each) => ({ value: each, words: each || "no concept" }))}
        onSay={(concept) => set({ concept: concept || null })}
      />
      <Field
        label="because"
        value={text(row, "because")}
        wide={48}
        hint="what the brief says, in one sentence"
        onSay={(because) => set({ because: because || null })}
      />
      {said ? <p className="w-full text-error">{said}</p> : null}
      <span className="ml-auto flex gap-4">
        <Word
          onClick={() => {
            onDone();
            void hands.change({ do: "remove", table: "check", index, scenario });
          }}
        >
          take it away
        </Word>
        <Button size="xs" onClick={onDone}>
          Done
        </Button>
      </span>
    </section>
  );
}
