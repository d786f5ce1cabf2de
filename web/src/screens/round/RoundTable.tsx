import { type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import type { RoundView, StudentRow } from "../../api/client";
import { inWords, Mark } from "../../strip/Mark";
import { marks } from "../../values";
import { LESSON } from "../../words/lesson";
import type { Order } from "./order";

interface RoundTableProps {
  round: RoundView;
  students: readonly StudentRow[];
  order: Order;
  onOrder: (order: Order) => void;
}

/** One stop of the Tab key for the whole table; the arrows move from cell to cell in it. */
export function RoundTable({ round, students, order, onOrder }: RoundTableProps) {
  const table = useRef<HTMLTableElement>(null);
  const [active, setActive] = useState<readonly [row: number, column: number]>([0, 0]);
  const columns = round.scenarios.length;
  const hasCraft = students.some((student) => student.craft.length > 0);
  const row = Math.min(active[0], Math.max(students.length - 1, 0));

  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    if (!step || !(event.target as HTMLElement).dataset["cell"]) return;
    event.preventDefault();
    const next: [number, number] = [clamp(row + step[0], students.length), clamp(active[1] + step[1], columns)];
    setActive(next);
    table.current?.querySelector<HTMLElement>(`[data-cell="${next[0]},${next[1]}"]`)?.focus();
  };

  return (
    // The arrow keys are an addition to the links in the cells, not a role of the table.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <table ref={table} className="w-full border-collapse" onKeyDown={onKeyDown}>
      <caption className="sr-only">Students down, scenarios across</caption>
      <thead className="sticky top-0 z-10 bg-base-100 align-bottom text-sm text-neutral">
        <tr>
          <th
            scope="col"
            className="py-2 pr-4 text-left font-normal"
            aria-sort={order === "name" ? "ascending" : "none"}
          >
            <OrderButton name="Student" active={order === "name"} onClick={() => onOrder("name")} />
          </th>
          {round.scenarios.map((scenario) => (
            <th key={scenario.name} scope="col" className="max-w-28 py-2 pr-3 text-left leading-tight font-normal">
              {scenario.name}
              <ScenarioNote scenario={scenario} />
            </th>
          ))}
          {hasCraft ? (
            <th scope="col" className="py-2 pr-3 text-left font-normal">
              Craft
            </th>
          ) : null}
          <th scope="col" className="py-2 text-right font-normal" aria-sort={order === "worst" ? "ascending" : "none"}>
            <OrderButton
              name={`of ${marks(round.out_of)}`}
              active={order === "worst"}
              onClick={() => onOrder("worst")}
            />
          </th>
        </tr>
      </thead>
      <tbody>
        {students.map((student, index) => (
          <Row
            key={student.submission_id}
            student={student}
            round={round}
            index={index}
            hasCraft={hasCraft}
            active={index === row ? active[1] : null}
            onActive={(column) => setActive([index, column])}
          />
        ))}
      </tbody>
    </table>
  );
}

/** What is special about a scenario: hidden from students, or many trials in one column. */
function ScenarioNote({ scenario }: { scenario: RoundView["scenarios"][number] }) {
  const trials = scenario.trials.length;
  const notes = [scenario.visible ? "" : "hidden", trials > 1 ? `${trials} trials` : ""].filter(Boolean);
  return notes.length > 0 ? <span className="block text-xs italic">{notes.join(", ")}</span> : null;
}

function clamp(value: number, length: number): number {
  return Math.min(Math.max(value, 0), length - 1);
}

function OrderButton({ name, active, onClick }: { name: string; active: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      className={`cursor-pointer ${active ? "text-base-content underline underline-offset-4" : ""}`}
      onClick={onClick}
    >
      {name}
      <span className="sr-only">{active ? ", in this order" : ", put in this order"}</span>
    </button>
  );
}

interface RowProps {
  student: StudentRow;
  round: RoundView;
  index: number;
  hasCraft: boolean;
  active: number | null;
  onActive: (column: number) => void;
}

function Row({ student, round, index, hasCraft, active, onActive }: RowProps) {
  const unreadable = student.status === "unreadable";
  return (
    <tr className="border-t border-base-300 hover:bg-base-200">
      <th scope="row" className="py-[0.1rem] pr-4 text-left font-semibold">
        {student.student}
        {student.late ? <span className="pl-2 text-xs font-normal text-error">{LESSON.late}</span> : null}
        {student.with_name ? (
          <span className="pl-2 text-xs font-normal text-neutral">{LESSON.together(student.with_name)}</span>
        ) : null}
        {student.reply ? (
          <span className="block max-w-40 truncate text-xs font-normal text-primary" title={student.reply}>
            “{student.reply}”
          </span>
        ) : null}
      </th>
      {student.status === "waiting" ? (
        <td colSpan={round.scenarios.length} className="text-neutral">
          waits to be marked
        </td>
      ) : unreadable || student.status === "unmarked" ? (
        <td colSpan={round.scenarios.length}>
          <Link
            to={`/tries/${student.submission_id}/scenarios/0`}
            className="link"
            data-cell={`${index},0`}
            tabIndex={active === null ? -1 : 0}
            onFocus={() => onActive(0)}
          >
            {unreadable ? "cannot be read" : "could not be marked"}
          </Link>
          {student.fault ? <span className="pl-2 text-sm text-neutral">{student.fault.message}</span> : null}
        </td>
      ) : (
        round.scenarios.map((scenario, column) => (
          <td key={scenario.name} className="pr-3">
            <Link
              to={`/tries/${student.submission_id}/scenarios/${column}`}
              className="inline-flex gap-[0.2rem] px-1 py-[0.2rem] no-underline"
              aria-label={`${student.student}, ${scenario.name}: ${inWords(student.verdicts[column] ?? [])}`}
              data-cell={`${index},${column}`}
              tabIndex={active === column ? 0 : -1}
              onFocus={() => onActive(column)}
            >
              {(student.verdicts[column] ?? []).map((answer, check) => (
                <Mark key={check} answer={answer} />
              ))}
              {student.predicted
                .filter((each) => each.scenario === column)
                .map((each) => (
                  <span
                    key="predicted"
                    className="pl-1 text-xs text-neutral"
                    title={LESSON.predicted(each.right, each.of, each.marks, each.out_of)}
                  >
                    {each.right}/{each.of}
                  </span>
                ))}
            </Link>
          </td>
        ))
      )}
      {hasCraft ? (
        <td className="pr-3">
          <span
            className="inline-flex gap-[0.2rem] px-1 py-[0.2rem]"
            role="img"
            aria-label={`${student.student}, craft: ${inWords(student.craft.map((line) => line.verdict))}`}
          >
            {student.craft.map((line) => (
              <span key={line.expect} className="inline-flex" title={line.reason ?? line.expect}>
                <Mark answer={line.verdict} />
              </span>
            ))}
          </span>
        </td>
      ) : null}
      <td className="text-right font-semibold">
        {student.marks === null ? (student.status === "unmarked" ? "?" : "") : marks(student.marks)}
        {student.out_of !== round.out_of ? (
          <span className="block text-sm font-normal text-neutral">of {marks(student.out_of)}</span>
        ) : null}
        {foretoldOf(student) > 0 ? (
          <span className="block text-sm font-normal text-neutral" title={LESSON.foretold}>
            + {marks(foretoldOf(student))}
          </span>
        ) : null}
        {student.own_marks === null ? null : (
          <span className="block text-sm font-normal text-primary">own {marks(student.own_marks)}</span>
        )}
        {student.fault && student.status !== "unmarked" ? (
          <span className="block text-sm font-normal text-neutral" title={student.fault.message}>
            not explained
          </span>
        ) : null}
      </td>
    </tr>
  );
}

/** What a student gets for what was foretold, beside what the script earns. */
function foretoldOf(student: StudentRow): number {
  return student.predicted.reduce((sum, each) => sum + each.marks, 0);
}
