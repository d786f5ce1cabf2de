import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";

import type { LedgerView } from "../../api/client";
import { ledgerQuery } from "../../api/lesson";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { marks } from "../../values";
import { LESSON } from "../../words/lesson";
import { Record } from "./Record";

type Cell = LedgerView["students"][number]["cells"][number];

/** A class over the term: students by exercises, concepts over time, and what to teach next. */
export function Ledger() {
  const id = Number(useParams()["class"]);
  const found = useQuery(ledgerQuery(id));
  return (
    <Shell
      title={found.data ? LESSON.ledgerOf(found.data.class_name) : LESSON.ledger}
      path={
        <>
          <Link to={`/classes/${id}`} className="link-hover">
            Class {found.data?.class_name ?? ""}
          </Link>{" "}
          / <strong className="text-base-content">{LESSON.ledger}</strong>
        </>
      }
      aside={
        <span className="flex gap-3 text-sm">
          <span className="text-neutral">{LESSON.takeAlong}</span>
          {["csv", "ods", "xlsx"].map((form) => (
            <a key={form} className="link" href={`/api/classes/${id}/ledger.${form}`} download>
              {form.toUpperCase()}
            </a>
          ))}
        </span>
      }
      keys={[{ keys: "Tab, Enter", does: "goes along the table and opens a try" }]}
    >
      <div className="h-full overflow-auto px-5 pb-8">
        {found.isPending ? (
          <Loading what="the ledger" />
        ) : found.isLoadingError ? (
          <Failed what="the ledger" error={found.error} retry={() => void found.refetch()} />
        ) : found.data.rounds.length === 0 ? (
          <p className="py-8">{LESSON.nothingSet}</p>
        ) : (
          <Whole view={found.data} />
        )}
      </div>
    </Shell>
  );
}

/** The class, or the one student whose number stands in the address. */
function Whole({ view }: { view: LedgerView }) {
  const [search, setSearch] = useSearchParams();
  const student = view.students.find((each) => String(each.id) === search.get("student"));
  const open = (id: number | null) => {
    const next = new URLSearchParams(search);
    if (id === null) next.delete("student");
    else next.set("student", String(id));
    setSearch(next);
  };
  if (student) return <Record view={view} student={student} onClose={() => open(null)} />;
  return (
    <>
      <Next view={view} />
      <Marks view={view} onOpen={open} />
      <Ideas view={view} />
    </>
  );
}

const counts = (cell: Cell) => cell.own_marks ?? cell.marks;

/** The marks; what is looked for and in which order stands in the address. */
function Marks({ view, onOpen }: { view: LedgerView; onOpen: (student: number) => void }) {
  const [search, setSearch] = useSearchParams();
  const wanted = search.get("find") ?? "";
  const order = search.get("order") === "marks" ? "marks" : "name";
  const change = (key: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const sum = (cells: readonly Cell[]) => cells.reduce((all, cell) => all + (counts(cell) ?? 0), 0);
  const students = view.students
    .filter((each) => each.name.toLowerCase().includes(wanted.toLowerCase()))
    .sort((a, b) => (order === "marks" ? sum(a.cells) - sum(b.cells) : a.name.localeCompare(b.name)));
  return (
    <section className="mt-4">
      <div className="flex flex-wrap items-end gap-4 pb-1 text-sm">
        <label className="flex items-center gap-2">
          <span className="text-neutral">{LESSON.find}</span>
          <input
            className="input input-xs w-40"
            value={wanted}
            onChange={(event) => change("find", event.target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          <span className="text-neutral">{LESSON.sortBy}</span>
          <select
            className="select select-xs w-auto"
            value={order}
            onChange={(event) => change("order", event.target.value === "marks" ? "marks" : "")}
          >
            <option value="name">{LESSON.byName}</option>
            <option value="marks">{LESSON.byMarks}</option>
          </select>
        </label>
      </div>
      <div className="overflow-x-auto">
        <table className="border-collapse text-sm" data-ledger={view.students.length}>
          <thead className="align-bottom text-neutral">
            <tr>
              <th scope="col" className="sticky left-0 bg-base-100 pr-4 text-left font-normal">
                {LESSON.student}
              </th>
              {view.rounds.map((each) => (
                <th key={each.id} scope="col" className="max-w-28 px-2 text-left leading-tight font-normal">
                  <Link to={`/rounds/${each.id}`} className="inline-block min-h-6 hover:underline">
                    {each.title}
                  </Link>
                  <span className="block text-xs">of {marks(each.out_of)}</span>
                </th>
              ))}
              <th scope="col" className="px-2 text-right font-normal">
                {LESSON.inAll}
              </th>
            </tr>
          </thead>
          <tbody>
            {students.map((student) => (
              <tr key={student.id} className="border-t border-base-300 hover:bg-base-200">
                <th
                  scope="row"
                  className={`sticky left-0 bg-base-100 pr-4 text-left ${student.left ? "text-neutral" : ""}`}
                >
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer hover:underline"
                    onClick={() => onOpen(student.id)}
                  >
                    {student.name}
                  </button>
                </th>
                {student.cells.map((cell, index) => (
                  <One key={cell.round_id} cell={cell} outOf={cell.out_of ?? view.rounds[index]?.out_of ?? 1} />
                ))}
                <td className="px-2 text-right font-semibold">{marks(sum(student.cells))}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

const BAR = 44;

/** A cell: a bar as long as what was earned, the marks, and what is special about it. */
function One({ cell, outOf }: { cell: Cell; outOf: number }) {
  const value = counts(cell);
  if (value === null || cell.submission_id === null)
    return <td className="px-2 text-neutral italic">{cell.excused ? LESSON.excused : "–"}</td>;
  const width = (Math.max(value, 0) / Math.max(outOf, 1)) * BAR;
  return (
    <td className="px-2 whitespace-nowrap">
      <Link to={`/tries/${cell.submission_id}/scenarios/0`} className="flex min-h-6 items-center gap-2 no-underline">
        <svg width={BAR} height={8} aria-hidden>
          <path d={`M0 7.5H${BAR}`} stroke="var(--line)" />
          <rect y={1} width={width} height={6} fill="var(--pencil)" />
        </svg>
        <span className="text-right">{marks(value)}</span>
        {cell.own_marks !== null && cell.marks !== null ? (
          <span className="text-xs text-primary" title={`computed: ${marks(cell.marks)}`}>
            {LESSON.own}
          </span>
        ) : null}
        {cell.late ? <span className="text-xs text-error">{LESSON.late}</span> : null}
      </Link>
    </td>
  );
}

/** What of each concept the class earned, round by round, and what to teach next. */
function Next({ view }: { view: LedgerView }) {
  return (
    <section className="pt-4" data-weakest={view.weakest ?? ""}>
      <h2 className="text-lg font-bold">{LESSON.overTime}</h2>
      <p className="text-sm text-neutral">{LESSON.ofClass}</p>
      <ul className="flex flex-wrap gap-x-10 py-1">
        {view.concepts.map((each) => (
          <li key={each.concept} className={each.concept === view.weakest ? "font-semibold" : ""}>
            {each.concept}
            <OverTime shares={each.shares} name={each.concept} />
          </li>
        ))}
      </ul>
      {view.weakest ? (
        <p>
          <strong>{LESSON.leastOf(view.weakest)}</strong> {view.next.length > 0 ? LESSON.teachNext : LESSON.noneLeft}{" "}
          {view.next.map((each) => (
            <Link
              key={each.version_id}
              to={`/exercises/${each.version_id}/play`}
              className="link mr-3 inline-flex min-h-6 items-center"
            >
              {each.title}
            </Link>
          ))}
        </p>
      ) : null}
    </section>
  );
}

const STEP = 16;
const TALL = 40;

function OverTime({ shares, name }: { shares: readonly (number | null)[]; name: string }) {
  const points = shares.flatMap((share, index) => (share === null ? [] : [{ x: index * STEP + 4, share }]));
  const y = (share: number) => TALL - 4 - share * (TALL - 8);
  const last = points.at(-1);
  return (
    <svg
      width={Math.max(shares.length * STEP, 40) + 40}
      height={TALL}
      role="img"
      aria-label={`${name}: ${points.map(({ share }) => `${Math.round(100 * share)} %`).join(", ")}`}
      className="block"
    >
      <path d={`M0 ${y(1)}H${shares.length * STEP}M0 ${y(0)}H${shares.length * STEP}`} stroke="var(--line)" />
      <path
        d={points.map(({ x, share }, index) => `${index ? "L" : "M"}${x} ${y(share)}`).join("")}
        stroke="var(--ink)"
        strokeWidth={1.5}
        fill="none"
      />
      {points.map(({ x, share }) => (
        <circle key={x} cx={x} cy={y(share)} r={2} fill="var(--ink)" />
      ))}
      {last ? (
        <text x={last.x + 8} y={y(last.share) + 4}>
          {Math.round(100 * last.share)} %
        </text>
      ) : null}
    </svg>
  );
}

/** How many had each idea, round by round. */
function Ideas({ view }: { view: LedgerView }) {
  if (view.ideas.length === 0) return null;
  const most = Math.max(1, ...view.ideas.flatMap((each) => each.students));
  return (
    <section className="mt-8">
      <h2 className="text-lg font-bold">{LESSON.ideas}</h2>
      <p className="text-sm text-neutral">{LESSON.ideasHelp}</p>
      <table className="border-collapse text-sm">
        <tbody>
          {view.ideas.map((each) => (
            <tr key={each.key} className="border-t border-base-300">
              <th scope="row" className="pr-4 text-left font-normal">
                {each.title}
              </th>
              {each.students.map((number, index) => (
                <td key={index} className="w-8 text-center" title={view.rounds[index]?.title}>
                  {number > 0 ? (
                    <span style={{ fontSize: `${0.7 + (0.5 * number) / most}rem` }} className="font-semibold">
                      {number}
                    </span>
                  ) : (
                    <span className="text-neutral">·</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
