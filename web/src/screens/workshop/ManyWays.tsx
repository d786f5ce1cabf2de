import { useState } from "react";

import { waysOf } from "../../api/queries";
import { WAYS } from "../../words/workshop";
import { Field, NumberField, Word } from "./Fields";
import type { Row, Settings } from "./rows";
import { freeTitle, isRow, number, rowsOf, text, words } from "./rows";
import type { Hands } from "./useDraft";

interface WaysProps {
  id: number;
  settings: Settings | null;
  scenario: number;
  hands: Hands;
  onScenario: (scenario: number) => void;
}

/** Words that make a scenario beside this one: round the boundary, in every order, whatever is played. */
export function Ways({ id, settings, scenario, hands, onScenario }: WaysProps) {
  const [said, setSaid] = useState("");
  const rows = rowsOf(settings, "scenario");
  const make = async (way: "boundary" | "orders" | "wild") => {
    setSaid("");
    try {
      const { row } = await waysOf(id, scenario, way);
      const name = freeTitle(rows, text(row, "name"));
      if (await hands.change({ do: "add", table: "scenario", row: { ...row, name } })) onScenario(rows.length);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div role="group" aria-label={WAYS.group} className="flex w-full flex-wrap items-baseline gap-x-4">
      <Word onClick={() => void make("boundary")}>{WAYS.boundary}</Word>
      <Word onClick={() => void make("orders")}>{WAYS.orders}</Word>
      <Word onClick={() => void make("wild")}>{WAYS.wild}</Word>
      {said ? (
        <p role="alert" className="w-full text-neutral">
          {said}
        </p>
      ) : null}
    </div>
  );
}

interface ManyProps {
  row: Row;
  settings: Settings | null;
  scenario: number;
  hands: Hands;
}

/** What a scenario has that is played in many ways: its table of cases, its keys to draw from, its steps. */
export function Many({ row, settings, scenario, hands }: ManyProps) {
  const wild = row["wild"];
  const steps = row["steps"];
  if (row["cases"] !== undefined) return <Cases row={row} settings={settings} scenario={scenario} hands={hands} />;
  if (isRow(wild)) return <Wild wild={wild} scenario={scenario} hands={hands} />;
  return isRow(steps) ? <p className="w-full">{WAYS.steps(Object.keys(steps))}</p> : null;
}

/** What is written with semicolons between, as a list; nothing where nothing is written. */
function parts(line: string): string[] | null {
  const found = line
    .split(";")
    .map((each) => each.trim())
    .filter(Boolean);
  return found.length > 0 ? found : null;
}

const listed = (value: unknown) => (Array.isArray(value) ? (value as unknown[]).map(String) : []);

function Cases({ row, settings, scenario, hands }: ManyProps) {
  const straight = settings?.["style"] === "straight";
  const cases = rowsOf(settings, "case", scenario);
  const last = cases.at(-1);
  return (
    <div role="group" aria-label={WAYS.rows} className="w-full">
      <span className="flex flex-wrap items-baseline gap-x-4 text-neutral">
        {WAYS.rows}
        <Field
          label={WAYS.caseAt}
          value={words(row["case_at"])}
          hint={WAYS.atTheEnd}
          wide={6}
          onSay={(line) => {
            const at = Number(line.trim());
            const keys = { case_at: line.trim() === "" || !Number.isFinite(at) ? null : at };
            void hands.change({ do: "change", table: "scenario", index: scenario, keys });
          }}
        />
      </span>
      <ol>
        {cases.map((each, index) => {
          const set = (keys: Record<string, unknown>) =>
            void hands.change({ do: "change", table: "case", index, scenario, keys });
          return (
            <li key={index} className="flex flex-wrap items-baseline gap-x-3 py-0.5" data-case-row={index}>
              <Field
                label={straight ? WAYS.answers : WAYS.arrange}
                value={listed(each[straight ? "answers" : "arrange"]).join("; ")}
                hint={straight ? WAYS.answersHint : WAYS.arrangeHint}
                wide={18}
                onSay={(line) => set({ [straight ? "answers" : "arrange"]: parts(line) })}
              />
              <Field
                label={WAYS.expect}
                value={text(each, "expect")}
                wide={26}
                onSay={(expect) => set({ expect: expect.trim() || "True" })}
              />
              <NumberField
                label={WAYS.marks}
                value={number(each, "marks", 1)}
                onSay={(worth) => set({ marks: worth })}
                wide={3}
              />
              <Word
                label={WAYS.takeRowAway(index + 1)}
                onClick={() => void hands.change({ do: "remove", table: "case", index, scenario })}
              >
                {WAYS.takeAway}
              </Word>
            </li>
          );
        })}
      </ol>
      <Word
        onClick={() =>
          void hands.change({
            do: "add",
            table: "case",
            scenario,
            row: { ...last, expect: text(last, "expect", "True") },
          })
        }
      >
        {WAYS.row}
      </Word>
    </div>
  );
}

function Wild({ wild, scenario, hands }: { wild: Row; scenario: number; hands: Hands }) {
  const set = (keys: Record<string, unknown>) => {
    const next = Object.fromEntries(Object.entries({ ...wild, ...keys }).filter(([, value]) => value !== null));
    void hands.change({ do: "change", table: "scenario", index: scenario, keys: { wild: next } });
  };
  return (
    <div role="group" aria-label={WAYS.wild} className="flex w-full flex-wrap items-baseline gap-x-3">
      <span className="text-neutral">{WAYS.wild}</span>
      <NumberField label={WAYS.runs} value={number(wild, "runs", 50)} onSay={(runs) => set({ runs })} />
      {(["keys", "clicks", "picks"] as const).map((key) => (
        <Field
          key={key}
          label={WAYS[key]}
          value={listed(wild[key]).join("; ")}
          wide={14}
          onSay={(line) => set({ [key]: parts(line) })}
        />
      ))}
    </div>
  );
}
