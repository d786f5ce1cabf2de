import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";

import type { AtWork, DeskNow, WorkView } from "../../api/client";
import { deskNow, workQuery } from "../../api/lesson";
import { Button } from "../../shell/Button";
import { InCode } from "../../shell/InCode";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { marks } from "../../values";
import { LESSON } from "../../words/lesson";

const WHILE_AWAY = 3000; // milliseconds between looks where events do not come through

/** A class while it works: who waits, who is stuck, and what most have now. Nothing here is a mark. */
export function Work() {
  const round = Number(useParams()["round"]);
  const streams = useStream(round);
  const work = useQuery(workQuery(round, streams ? false : WHILE_AWAY));
  const [open, setOpen] = useState<DeskNow | null>(null);
  const data = work.data;
  return (
    <Shell
      title={data ? `${data.title}, ${LESSON.atWork}` : LESSON.atWorkLong}
      path={
        <>
          <Link to={`/rounds/${round}`} className="link-hover">
            {data?.title ?? "Round"}
          </Link>{" "}
          / class <strong className="text-base-content">{data?.class_name ?? ""}</strong> / {LESSON.atWork}
        </>
      }
      aside={data ? <Standing work={data} /> : null}
      keys={[{ keys: "Tab, Enter", does: "goes along the class and opens a script" }]}
    >
      {work.isPending ? (
        <Loading what="the class" />
      ) : work.isLoadingError ? (
        <Failed what="the class" error={work.error} retry={() => void work.refetch()} />
      ) : (
        <div className="grid h-full grid-cols-[minmax(0,21fr)_minmax(0,10fr)] max-[56rem]:grid-cols-1">
          <Everybody work={work.data} onOpen={(id) => void deskNow(round, id).then(setOpen, () => undefined)} />
          <Aside work={work.data} />
        </div>
      )}
      {open ? <OpenDesk desk={open} onClose={() => setOpen(null)} /> : null}
    </Shell>
  );
}

/** Hears events of the server for as long as they come; whether they do. */
function useStream(round: number): boolean {
  const queries = useQueryClient();
  const [streams, setStreams] = useState(false);
  useEffect(() => {
    const source = new EventSource(`/api/rounds/${round}/work/live`);
    source.onmessage = (event: MessageEvent<string>) => {
      setStreams(true);
      queries.setQueryData(workQuery(round, false).queryKey, JSON.parse(event.data) as WorkView);
    };
    source.onerror = () => setStreams(false);
    return () => source.close();
  }, [round, queries]);
  return streams;
}

function Standing({ work }: { work: WorkView }) {
  const there = work.students.filter((each) => each.seen_at !== null).length;
  const done = work.students.filter((each) => each.handed_in).length;
  return (
    <span role="status" data-standing={there}>
      {LESSON.desks(there, work.students.length)}, {LESSON.handedIn(done)}
    </span>
  );
}

interface EverybodyProps {
  work: WorkView;
  onOpen: (student: number) => void;
}

function Everybody({ work, onOpen }: EverybodyProps) {
  const now = Date.parse(work.now);
  const rank = (each: AtWork) => (each.asks_since ? 0 : each.stuck ? 1 : each.seen_at ? 2 : 3);
  const students = [...work.students].sort((a, b) => rank(a) - rank(b));
  return (
    <div className="overflow-auto px-5 pb-6">
      {work.students.every((each) => each.seen_at === null) ? <p className="py-3">{LESSON.nobodyYet}</p> : null}
      <table className="w-full border-collapse">
        <thead className="sticky top-0 bg-base-100 text-left text-sm text-neutral">
          <tr>
            <th scope="col" className="py-2 font-normal">
              {LESSON.student}
            </th>
            <th scope="col" className="py-2 font-normal">
              {LESSON.lastMinutes(work.minutes)}
            </th>
            <th scope="col" className="py-2 font-normal">
              {LESSON.lastSeen}
            </th>
            <th scope="col" className="py-2 font-normal">
              {LESSON.now}
            </th>
            <th scope="col" className="py-2 text-right font-normal">
              of {marks(work.out_of)}
            </th>
          </tr>
        </thead>
        <tbody>
          {students.map((each) => (
            <tr key={each.student_id} className="border-t border-base-300" data-at-work={each.student}>
              <th scope="row" className="pr-3 text-left font-semibold">
                {work.watches && each.seen_at ? (
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer hover:underline"
                    title={LESSON.lookAt(each.student)}
                    onClick={() => onOpen(each.student_id)}
                  >
                    {each.student}
                  </button>
                ) : (
                  each.student
                )}
              </th>
              <td className="w-1/2 pr-4">
                <Line each={each} outOf={work.out_of} seconds={work.minutes * 60} now={now} />
              </td>
              <td className="pr-3 text-sm text-neutral">
                {each.seen_at ? LESSON.ago((now - Date.parse(each.seen_at)) / 1000) : ""}
              </td>
              <td className={each.asks_since ? "text-primary" : each.stuck ? "text-error" : "text-neutral"}>
                {each.asks_since
                  ? LESSON.asks
                  : each.stuck
                    ? LESSON[each.stuck.why === "same" ? "stuck" : "quiet"]
                    : each.excused
                      ? LESSON.excused
                      : LESSON.doing[each.doing]}
              </td>
              <td className="text-right font-semibold">{each.marks === null ? "" : marks(each.marks)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const WIDTH = 320;
const HEIGHT = 24;

/** The marks of each check over the last minutes, as a stepped line; a mark where help was asked for. */
function Line({ each, outOf, seconds, now }: { each: AtWork; outOf: number; seconds: number; now: number }) {
  const x = (ago: number) => WIDTH - (Math.min(ago, seconds) / seconds) * WIDTH;
  const y = (value: number) => HEIGHT - 3 - (value / Math.max(outOf, 1)) * (HEIGHT - 6);
  const path = each.line.map(([ago, value], index) => `${index ? `H${x(ago)}V` : `M${x(ago)} `}${y(value)}`).join("");
  const asked = each.asks_since ? x((now - Date.parse(each.asks_since)) / 1000) : null;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-6 w-full max-w-80"
      role="img"
      aria-label={each.line.map(([, value]) => marks(value)).join(", ") || "nothing checked"}
    >
      <path d={`M0 ${y(outOf)}H${WIDTH}`} stroke="var(--line)" strokeDasharray="3 3" />
      {path ? <path d={`${path}H${WIDTH}`} stroke="var(--ink)" strokeWidth={1.5} fill="none" /> : null}
      {each.line.map(([ago, value], index) => (
        <circle key={index} cx={x(ago)} cy={y(value)} r={2} fill="var(--ink)" />
      ))}
      {asked === null ? null : <path d={`M${asked - 4} 0h8l-4 7z`} fill="var(--plum)" />}
    </svg>
  );
}

function Aside({ work }: { work: WorkView }) {
  const now = Date.parse(work.now);
  const since = (value: string) => LESSON.ago((now - Date.parse(value)) / 1000);
  const asks = work.students
    .filter((each) => each.asks_since !== null)
    .sort((a, b) => (a.asks_since ?? "").localeCompare(b.asks_since ?? ""));
  const stuck = work.students.filter((each) => each.stuck && !each.asks_since);
  return (
    <aside className="overflow-auto border-l border-base-300 px-5 py-2" aria-label={LESSON.waiting}>
      <Part title={LESSON.waiting} note={LESSON.longestFirst} empty={LESSON.nobodyWaits}>
        {asks.map((each) => (
          <Entry key={each.student_id} name={each.student} when={since(each.asks_since ?? work.now)} waits>
            {LESSON.asks}
            {each.title ? (
              <span className="block text-neutral">
                <InCode text={each.title} />
              </span>
            ) : null}
          </Entry>
        ))}
      </Part>
      <Part title={LESSON.stuckTitle} note="" empty={LESSON.nobodyStuck}>
        {stuck.map((each) =>
          each.stuck ? (
            <Entry key={each.student_id} name={each.student} when={since(each.stuck.since)} waits={false}>
              <span className="block text-neutral">
                <InCode
                  text={
                    each.stuck.why === "same"
                      ? LESSON.sameFor(each.stuck.tries, each.stuck.title)
                      : LESSON.quietSince(each.stuck.since)
                  }
                />
              </span>
            </Entry>
          ) : null,
        )}
      </Part>
      <Part title={LESSON.everybody} note={LESSON.byStudents} empty={LESSON.nothingNow}>
        {work.ideas.map((each) => (
          <li key={each.key} className="flex gap-4 border-b border-base-300 py-2" data-idea={each.students}>
            <strong className="w-6 text-right text-lg">{each.students}</strong>
            <span>
              <InCode text={each.title} />
              <span className="block">
                <Link
                  to={`/rounds/${work.id}/sheet?work=1&key=${encodeURIComponent(each.key)}`}
                  className="link inline-flex min-h-6 items-center text-primary"
                >
                  {LESSON.onProjector}
                </Link>{" "}
                {each.mended > 0 ? <span className="text-neutral">{LESSON.mended(each.mended)}</span> : null}
              </span>
            </span>
          </li>
        ))}
      </Part>
      <p className="text-sm text-neutral">{LESSON.noMark}</p>
    </aside>
  );
}

interface PartProps {
  title: string;
  note: string;
  empty: string;
  children: React.ReactNode[];
}

function Part({ title, note, empty, children }: PartProps) {
  return (
    <section className="mb-5">
      <div className="flex justify-between text-sm text-neutral">
        <h2>{title}</h2>
        <span>{note}</span>
      </div>
      {children.length === 0 ? <p className="py-1 text-neutral">{empty}</p> : <ul>{children}</ul>}
    </section>
  );
}

interface EntryProps {
  name: string;
  when: string;
  waits: boolean;
  children: React.ReactNode;
}

function Entry({ name, when, waits, children }: EntryProps) {
  return (
    <li className="flex justify-between gap-4 border-b border-base-300 py-1.5" data-waits={waits ? name : undefined}>
      <span>
        <strong>{name}</strong> {children}
      </span>
      <span className="text-sm whitespace-nowrap text-neutral">{when}</span>
    </li>
  );
}

/** Somebody's script as it is now, to be read. */
function OpenDesk({ desk, onClose }: { desk: DeskNow; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog ref={dialog} className="modal" aria-labelledby="desk-title" onClose={onClose} data-open-desk={desk.student}>
      <div className="modal-box max-w-3xl border border-base-300 bg-base-100">
        <h2 id="desk-title" className="mb-2 text-lg font-bold">
          {LESSON.scriptOf(desk.student, desk.changed_at)}
        </h2>
        <ol className="mono max-h-[65vh] overflow-auto border border-base-300 bg-(--sheet) py-2">
          {desk.source.split("\n").map((line, index) => (
            <li key={index} className="grid grid-cols-[3rem_1fr] gap-3">
              <span className="text-right text-neutral select-none">{index + 1}</span>
              <span className="whitespace-pre">{line || " "}</span>
            </li>
          ))}
        </ol>
        <form method="dialog" className="mt-3 text-right">
          <Button type="submit">{LESSON.close}</Button>
        </form>
      </div>
    </dialog>
  );
}
