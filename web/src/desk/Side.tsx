import { type ReactNode, useState } from "react";

import { Brief } from "../shell/Brief";
import { InCode } from "../shell/InCode";
import { DESK } from "../words/desk";
import { Finding } from "./Finding";
import { Language } from "./Language";
import { Row } from "./Row";
import type { Seat } from "./seat";
import type { Checking } from "./useChecked";
import type { Run } from "./useRun";

interface SideProps {
  seat: Seat;
  run: Run;
  checking: Checking;
  /** The script is another one than the one that was checked. */
  outdated: boolean;
  /** Hears which finding is being read. */
  onFinding: (index: number | null) => void;
  below: ReactNode;
}

const TABS = ["tasks", "brief", "language"] as const;

/** What is to be done and how far it is; the brief; the language. */
export function Side({ seat, run, checking, outdated, onFinding, below }: SideProps) {
  const [tab, setTab] = useState<(typeof TABS)[number]>("brief");
  const [seen, setSeen] = useState(0);
  const { checked } = checking;
  if (checked && seen !== checked.number) {
    if (seen === 0) setTab("tasks");
    setSeen(checked.number);
  }
  return (
    <section aria-label={DESK[tab]} className="flex min-h-0 flex-col px-4 pt-2">
      <div role="tablist" aria-label={DESK.tasks} className="flex gap-4 text-sm">
        {TABS.map((each) => (
          <button
            key={each}
            type="button"
            role="tab"
            id={`side-${each}`}
            aria-selected={tab === each}
            aria-controls="side-panel"
            className="cursor-pointer pb-1 text-neutral aria-selected:border-b-2 aria-selected:border-primary aria-selected:font-bold aria-selected:text-base-content"
            onClick={() => setTab(each)}
          >
            {DESK[each]}
          </button>
        ))}
      </div>
      <div
        id="side-panel"
        role="tabpanel"
        aria-labelledby={`side-${tab}`}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-auto pt-1 pb-3"
      >
        {tab === "brief" ? (
          <Brief text={seat.brief} />
        ) : tab === "language" ? (
          <Language />
        ) : (
          <Tasks {...{ seat, run, checking, outdated, onFinding }} />
        )}
        {tab === "tasks" ? below : null}
      </div>
    </section>
  );
}

function Tasks({ seat, run, checking, outdated, onFinding }: Omit<SideProps, "below">) {
  const { checked, busy, error } = checking;
  const findings = checked?.findings ?? [];
  const rows = checked?.scenarios ?? [];
  const numbers = new Set(rows.map((row) => row.number));
  const elsewhere = findings.filter((each) => each.scenario === null || !numbers.has(each.scenario));
  const of = (number: number) => findings.filter((each) => each.scenario === number);
  const finding = (each: (typeof findings)[number]) =>
    checked ? (
      <Finding
        key={each.index}
        finding={each}
        checked={checked}
        seat={seat}
        onAsk={(found) => void checking.renew(found)}
        onRead={onFinding}
        onMoment={each.scenario === null ? null : () => void run.open(checked, each.scenario ?? 0, each.frame ?? null)}
      />
    ) : null;
  return (
    <>
      {error ? (
        <p role="alert" className="text-error">
          {error}
        </p>
      ) : null}
      {!checked ? <p className="py-1 text-neutral">{busy ? DESK.checking : DESK.notChecked}</p> : null}
      {checked?.unmarked ? <p role="status">{DESK.unmarked(checked.unmarked)}</p> : null}
      {checked && outdated ? <p className="border-l-2 border-primary pl-2 text-sm">{DESK.outdated}</p> : null}
      {checked?.problems.length ? (
        <ul className="py-1" aria-label={DESK.unreadable}>
          {checked.problems.map((problem) => (
            <li key={`${problem.line} ${problem.column}`}>
              Line {problem.line}: <InCode text={`${problem.message} ${problem.instead}`} />
            </li>
          ))}
        </ul>
      ) : null}
      <ul data-rows={checked?.id ?? "none"}>
        {seat.scenarios.map(({ number, name }) => {
          const row = rows.find((each) => each.number === number);
          return (
            <li key={number} className="border-b border-base-300">
              {row && checked ? (
                <Row
                  row={row}
                  chosen={run.looked?.kind === "scenario" && run.looked.scenario === number && !run.playing}
                  check={run.chosen}
                  trial={run.trial}
                  straight={seat.straight}
                  onOpen={() => void run.open(checked, number, null)}
                  onForetell={
                    seat.foretell
                      ? async (guesses) => {
                          await seat.foretell?.(checked, number, guesses);
                          await checking.renew(await seat.again(checked));
                          await run.open(checked, number, null);
                        }
                      : null
                  }
                />
              ) : (
                <p className="py-2">{name}</p>
              )}
              {of(number).map(finding)}
            </li>
          );
        })}
      </ul>
      {elsewhere.map(finding)}
      {checked && checked.findings === null && !checked.unmarked ? (
        <p role="status" className="py-1 text-neutral">
          {DESK.looking}
        </p>
      ) : null}
      {checked && checked.findings?.length === 0 && rows.every((row) => row.marks >= row.out_of) ? (
        <p className="py-1">{DESK.nothingFound}</p>
      ) : null}
      {checked?.advice.map((each) => (
        <p key={each} className="py-1 text-sm text-neutral">
          <InCode text={each} />
        </p>
      ))}
      {seat.hidden > 0 ? (
        <p className="border-b border-base-300 py-2 text-neutral">{DESK.hidden(seat.hidden)}</p>
      ) : null}
    </>
  );
}
