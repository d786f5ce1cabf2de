import { useQuery } from "@tanstack/react-query";
import { type SyntheticEvent, useState } from "react";
import { Link } from "react-router";

import type { RoundView } from "../../api/client";
import { copyRound, giveBack, setStanding, setTimes } from "../../api/lesson";
import { classesQuery } from "../../api/people";
import { roundQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { Button } from "../../shell/Button";
import { LESSON } from "../../words/lesson";
import { Levels } from "./Levels";

/** When a round opens, is due and closes, what students see of it, and that it is given back. */
export function Dates({ round }: { round: RoundView }) {
  const here = roundQuery(round.id);
  const back = useChange((give: boolean) => giveBack(round.id, null, give), here);
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 py-1 text-sm">
      <span className="flex gap-4">
        <Link to={`/rounds/${round.id}/work`} className="link inline-flex min-h-6 items-center text-primary">
          {LESSON.atWork}
        </Link>
        <Link to={`/rounds/${round.id}/sheets`} className="link inline-flex min-h-6 items-center">
          {LESSON.sheets}
        </Link>
        <Link to={`/rounds/${round.id}/closer`} className="link inline-flex min-h-6 items-center">
          {LESSON.closer}
        </Link>
      </span>
      {round.due_at ? (
        <span className="text-neutral">
          {LESSON.due} {LESSON.date(round.due_at)}
        </span>
      ) : null}
      {round.given_back_at ? (
        <span data-given-back>
          {LESSON.givenBack(round.given_back_at)}{" "}
          <Button look="quiet" size="xs" onClick={() => back.mutate(false)}>
            {LESSON.takeBack}
          </Button>
        </span>
      ) : round.students.length > 0 ? (
        <span data-not-given-back>
          <span className="text-neutral">{LESSON.notBack}</span>{" "}
          <Button size="xs" disabled={back.isPending} onClick={() => back.mutate(true)}>
            {LESSON.giveBack}
          </Button>
        </span>
      ) : null}
      <details className="grow" data-dates>
        <summary className="cursor-pointer text-neutral">{LESSON.settings}</summary>
        <Settings key={JSON.stringify([round.opens_at, round.due_at, round.closes_at])} round={round} />
        <Levels round={round} />
        <Copy round={round} />
      </details>
    </div>
  );
}

function Settings({ round }: { round: RoundView }) {
  const [opens, setOpens] = useState(local(round.opens_at));
  const [due, setDue] = useState(local(round.due_at));
  const [closes, setCloses] = useState(local(round.closes_at));
  const [hidden, setHidden] = useState(round.shows_hidden);
  const [watches, setWatches] = useState(round.watches);
  const keeping = useChange(
    () =>
      setTimes(round.id, {
        opens_at: zoned(opens),
        due_at: zoned(due),
        closes_at: zoned(closes),
        shows_hidden: hidden,
        watches,
      }),
    roundQuery(round.id),
  );
  const keep = (event: SyntheticEvent) => {
    event.preventDefault();
    keeping.mutate(undefined);
  };
  const field = (label: string, value: string, change: (value: string) => void) => (
    <label className="flex flex-col">
      <span className="text-neutral">{label}</span>
      <input
        type="datetime-local"
        className="input input-sm w-52"
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
  return (
    <form onSubmit={keep} className="flex flex-wrap items-end gap-x-4 gap-y-2 py-2">
      {field(LESSON.opens, opens, setOpens)}
      {field(LESSON.due, due, setDue)}
      {field(LESSON.closes, closes, setCloses)}
      <label className="flex items-center gap-2">
        <input type="checkbox" className="checkbox checkbox-sm" checked={hidden} onChange={() => setHidden(!hidden)} />
        {LESSON.showsHidden}
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={watches}
          onChange={() => setWatches(!watches)}
        />
        {LESSON.watches}
      </label>
      <Button type="submit" disabled={keeping.isPending}>
        {LESSON.keep}
      </Button>
      {keeping.isError ? (
        <span role="alert" className="text-error">
          {keeping.error.message}
        </span>
      ) : null}
    </form>
  );
}

/** The same exercise for another class. */
function Copy({ round }: { round: RoundView }) {
  const classes = useQuery(classesQuery);
  const copying = useChange((id: number) => copyRound(round.id, id), roundQuery(round.id));
  const others = (classes.data ?? []).filter((each) => each.id !== round.class_id && each.put_away_at === null);
  if (others.length === 0) return null;
  return (
    <label className="flex items-baseline gap-2">
      <span className="text-neutral">{LESSON.copyTo}</span>
      <select
        className="select select-sm w-auto bg-transparent"
        value=""
        onChange={(event) => copying.mutate(Number(event.target.value))}
      >
        <option value="" disabled>
          {LESSON.class_}
        </option>
        {others.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </select>
      {copying.isSuccess ? <span role="status">{LESSON.copied}</span> : null}
      {copying.isError ? <span role="alert">{copying.error.message}</span> : null}
    </label>
  );
}

/** Who has handed in nothing yet: they are in the round, too. */
export function Without({ round }: { round: RoundView }) {
  const changing = useChange(
    (wanted: { student: number; excused: boolean; due: string | null }) =>
      setStanding(round.id, wanted.student, wanted.excused, wanted.due),
    roundQuery(round.id),
  );
  if (round.without.length === 0) return null;
  return (
    <section className="mt-4" aria-label={LESSON.nothing} data-without>
      <h2 className="border-b border-base-300 text-sm text-neutral">
        {LESSON.nothing}: {round.without.filter((each) => !each.excused).length}
      </h2>
      {changing.isError ? <p role="alert">{changing.error.message}</p> : null}
      <ul className="columns-2 gap-8">
        {round.without.map((each) => (
          <li key={each.student_id} className="flex flex-wrap items-baseline gap-x-3 py-0.5">
            <span className={each.excused ? "text-neutral" : "font-semibold"}>{each.student}</span>
            {each.excused ? <span className="text-sm">{LESSON.excused}</span> : null}
            {each.due_at ? <span className="text-sm">{LESSON.laterUntil(each.due_at)}</span> : null}
            <Button
              look="quiet"
              size="xs"
              aria-label={`${each.excused ? LESSON.notExcused : LESSON.excuse} ${each.student}`}
              onClick={() => changing.mutate({ student: each.student_id, excused: !each.excused, due: each.due_at })}
            >
              {each.excused ? LESSON.notExcused : LESSON.excuse}
            </Button>
            {each.excused ? null : (
              <label className="text-sm">
                <span className="sr-only">
                  {LESSON.later}, {each.student}
                </span>
                <input
                  type="datetime-local"
                  className="input input-xs w-40"
                  title={LESSON.later}
                  value={local(each.due_at)}
                  onChange={(event) =>
                    changing.mutate({ student: each.student_id, excused: false, due: zoned(event.target.value) })
                  }
                />
              </label>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A time as a field of the browser has it, in the teacher's own zone; and back. */
function local(value: string | null): string {
  if (!value) return "";
  const at = new Date(value);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

function zoned(value: string): string | null {
  return value ? new Date(value).toISOString() : null;
}
