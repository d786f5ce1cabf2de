import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";

import type { ExerciseHead, RoundSummary } from "../../api/client";
import { beginDraft, benchQuery, bringDraft, draftsQuery, openRound } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count, marks } from "../../values";
import { Button } from "../../shell/Button";
import { BENCH } from "../../words/bench";
import { useDrops } from "../../shell/useDrops";

/** What waits: the rounds, with one click to each. */
export function Bench() {
  const bench = useQuery(benchQuery);
  const [asked, setAsked] = useSearchParams();
  const find = asked.get("find") ?? "";
  const inClass = asked.get("class") ?? "";
  const ask = (key: string, value: string) =>
    setAsked(
      (before) => {
        if (value) before.set(key, value);
        else before.delete(key);
        return before;
      },
      { replace: true },
    );
  const has = (text: string) => text.toLocaleLowerCase().includes(find.trim().toLocaleLowerCase());
  const rounds = (bench.data?.rounds ?? []).filter(
    (round) => (inClass === "" || round.class_name === inClass) && has(`${round.title} ${round.class_name}`),
  );
  const exercises = (bench.data?.exercises ?? []).filter((each) => has(`${each.title} ${each.concepts.join(" ")}`));
  return (
    <Shell title="Bench" path="Bench" headed keys={[{ keys: "Tab, Enter", does: "chooses a round" }]}>
      <div className="mx-auto max-w-4xl px-6 py-8">
        <div className="mb-4 flex flex-wrap items-baseline justify-between gap-4">
          <h1 className="text-2xl font-bold">Rounds</h1>
          {bench.data && bench.data.rounds.length > 0 ? (
            <search className="flex flex-wrap items-baseline gap-4 text-sm">
              {bench.data.classes.length > 1 ? (
                <label className="flex items-baseline gap-2">
                  <span className="text-neutral">{BENCH.class_}</span>
                  <select
                    className="select select-sm w-auto bg-transparent"
                    value={inClass}
                    onChange={(event) => ask("class", event.target.value)}
                  >
                    <option value="">{BENCH.every}</option>
                    {bench.data.classes.map((each) => (
                      <option key={each} value={each}>
                        {each}
                      </option>
                    ))}
                  </select>
                </label>
              ) : null}
              <label className="flex items-baseline gap-2">
                <span className="text-neutral">{BENCH.find}</span>
                <input
                  type="search"
                  className="input input-sm w-44"
                  placeholder={BENCH.findHint}
                  value={find}
                  maxLength={80}
                  onChange={(event) => ask("find", event.target.value)}
                />
              </label>
            </search>
          ) : null}
        </div>
        {bench.data && bench.data.marking_trouble !== null ? (
          <p role="alert" className="mb-3 text-error">
            Marking is not running just now, since {bench.data.marking_trouble}. It begins again by itself.
          </p>
        ) : null}
        {bench.isPending ? (
          <Loading what="the rounds" />
        ) : bench.isLoadingError ? (
          <Failed what="the rounds" error={bench.error} retry={() => void bench.refetch()} />
        ) : bench.data.rounds.length === 0 ? (
          <p>
            Nothing is set yet. <Link to="/classes">Make a class</Link>, then open a round of an exercise below.
          </p>
        ) : (
          <Rounds rounds={rounds} find={find || inClass} />
        )}
        <Drafts />
        {bench.data && exercises.length > 0 ? (
          <Exercises exercises={exercises} classes={bench.data.classes} rounds={bench.data.rounds} />
        ) : null}
      </div>
    </Shell>
  );
}

const AT_ONCE = 4; // rounds that are shown unfolded

/** The newest rounds, and the older ones folded away. */
function Rounds({ rounds, find }: { rounds: readonly RoundSummary[]; find: string }) {
  if (rounds.length === 0) return <p className="text-neutral">{BENCH.none(find)}</p>;
  const older = rounds.slice(AT_ONCE);
  return (
    <>
      <ul>
        {rounds.slice(0, AT_ONCE).map((round) => (
          <RoundLine key={round.id} round={round} />
        ))}
      </ul>
      {older.length > 0 ? (
        <details className="mt-2" open={find !== ""}>
          <summary className="cursor-pointer text-primary">{count(older.length, "earlier round")}</summary>
          <ul>
            {older.map((round) => (
              <RoundLine key={round.id} round={round} />
            ))}
          </ul>
        </details>
      ) : null}
    </>
  );
}

/** What is being made, the draft that was changed last first. */
function Drafts() {
  const drafts = useQuery(draftsQuery);
  return (
    <section aria-labelledby="drafts">
      <div className="mt-10 mb-4 flex items-baseline justify-between">
        <h2 id="drafts" className="text-2xl font-bold">
          Workshop
        </h2>
        <span className="flex items-baseline gap-5">
          <Begin version={null} words="a new exercise" label="a new exercise" />
          <Bring />
        </span>
      </div>
      {drafts.isLoadingError ? (
        <Failed what="the drafts" error={drafts.error} retry={() => void drafts.refetch()} />
      ) : null}
      {drafts.data?.length === 0 ? (
        <p className="text-neutral">Nothing is being made just now.</p>
      ) : (
        <ul>
          {drafts.data?.map((draft) => (
            <li
              key={draft.id}
              className="flex items-baseline justify-between border-t border-base-300 py-3 last:border-b"
            >
              <Link to={`/drafts/${draft.id}`} className="text-lg font-semibold hover:underline">
                {draft.title}
              </Link>
              <span className="ml-4 flex-1 text-sm text-neutral" data-unfit>
                {draft.unfit ? BENCH.unfit(draft.unfit) : draft.unfit === "" ? BENCH.fit : null}
              </span>
              <span className="text-neutral">
                changed{" "}
                {new Date(draft.changed_at).toLocaleString("en-GB", {
                  day: "numeric",
                  month: "long",
                  hour: "2-digit",
                  minute: "2-digit",
                })}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** An exercise that was made elsewhere: a zip that is chosen, or a folder or zip dropped on the page. */
function Bring() {
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const bringing = useMutation({
    mutationFn: (files: readonly File[]) => bringDraft(files),
    onSuccess: (made) => navigate(`/drafts/${made.id}`),
  });
  const { mutate } = bringing;
  const take = useCallback((files: readonly File[]) => files.length > 0 && mutate(files), [mutate]);
  useDrops(setOver, take);
  return (
    <span className={over ? "outline-2 outline-dashed outline-primary" : ""}>
      <button type="button" className="link min-h-6" onClick={() => input.current?.click()}>
        {over ? "let go to bring it in" : "bring one in"}
      </button>
      <input
        ref={input}
        type="file"
        multiple
        accept=".zip,.toml,.py,.md,.svg"
        className="hidden"
        aria-label="An exercise to bring in, as a zip or its files"
        data-bring
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      {bringing.isError ? (
        <span role="alert" className="text-error">
          {" "}
          {bringing.error.message}
        </span>
      ) : null}
    </span>
  );
}

/** Begins a draft, with a version of an exercise or with nothing, and goes there. */
function Begin({ version, words, label }: { version: number | null; words: string; label: string }) {
  const navigate = useNavigate();
  const beginning = useMutation({
    mutationFn: () => beginDraft(version),
    onSuccess: (made) => navigate(`/drafts/${made.id}`),
  });
  return (
    <>
      <button type="button" className="link min-h-6" aria-label={label} onClick={() => beginning.mutate()}>
        {words}
      </button>
      {beginning.isError ? (
        <span role="alert" className="text-error">
          {beginning.error.message}
        </span>
      ) : null}
    </>
  );
}

/** The exercises, each to be played by hand. */
interface ExercisesProps {
  exercises: readonly ExerciseHead[];
  classes: readonly string[];
  rounds: readonly RoundSummary[];
}

function Exercises({ exercises, classes, rounds }: ExercisesProps) {
  return (
    <section aria-labelledby="exercises">
      <h2 id="exercises" className="mt-10 mb-4 text-2xl font-bold">
        Exercises
      </h2>
      <ul>
        {exercises.map((exercise) => (
          <li
            key={exercise.version_id}
            className="grid grid-cols-[1fr_5rem_auto] items-center gap-6 border-t border-base-300 py-3 last:border-b"
          >
            <span>
              <span className="text-lg font-semibold">{exercise.title}</span>{" "}
              <span className="text-neutral">
                {count(exercise.scenarios, "scenario")}, {marks(exercise.out_of)} marks
              </span>
              {exercise.concepts.length > 0 ? (
                <span className="block text-sm text-neutral">{BENCH.for_(exercise.concepts)}</span>
              ) : null}
            </span>
            <LastRound round={rounds.find((round) => round.exercise_id === exercise.exercise_id && round.marked > 0)} />
            <span className="flex items-baseline gap-5">
              <OpenRound exercise={exercise} classes={classes} />
              <Link to={`/exercises/${exercise.version_id}/play`} className="text-primary underline underline-offset-4">
                play by hand
              </Link>
              <Link to={`/exercises/${exercise.version_id}/paper`} className="underline underline-offset-4">
                {BENCH.paper}
              </Link>
              <Begin
                version={exercise.version_id}
                words="to the workshop"
                label={`${exercise.title} to the workshop`}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** An exercise's last round, small. */
function LastRound({ round }: { round: RoundSummary | undefined }) {
  if (!round) return <span />;
  return (
    <Link to={`/rounds/${round.id}`} title={`${BENCH.lastRound}: ${round.class_name}`}>
      <Spread spread={round.spread} outOf={round.out_of} />
    </Link>
  );
}

/** Asks for a class and opens its round at an exercise. */
function OpenRound({ exercise, classes }: { exercise: ExerciseHead; classes: readonly string[] }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const [name, setName] = useState(classes[0] ?? "");
  const opening = useMutation({
    mutationFn: () => openRound(exercise.version_id, name),
    onSuccess: (opened) => navigate(`/rounds/${opened.id}`),
  });
  if (!asking) {
    return (
      <button
        type="button"
        className="link"
        aria-label={`open a round of ${exercise.title}`}
        onClick={() => setAsking(true)}
      >
        open a round
      </button>
    );
  }
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        opening.mutate();
      }}
    >
      <label className="flex items-center gap-2 text-sm">
        Class
        <input
          className="input input-sm w-32"
          list="classes"
          value={name}
          maxLength={60}
          required
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <datalist id="classes">
        {classes.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
      <Button type="submit" size="xs">
        Open
      </Button>
      {opening.isError ? (
        <span role="alert" className="text-error">
          {opening.error.message}
        </span>
      ) : null}
    </form>
  );
}

function RoundLine({ round }: { round: RoundSummary }) {
  const waiting = round.scripts - round.marked;
  return (
    <li className="border-t border-base-300 last:border-b">
      <Link
        to={`/rounds/${round.id}`}
        className="grid grid-cols-[1fr_16rem_12rem] items-center gap-6 py-4 hover:bg-base-200"
      >
        <span>
          <span className="block text-lg font-semibold">{round.title}</span>
          <span className="text-neutral">
            class {round.class_name}, {count(round.scripts, "script")},{" "}
            {new Date(round.opened_at).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}
          </span>
        </span>
        <Spread spread={round.spread} outOf={round.out_of} />
        <span className="text-right">
          {waiting > 0 ? (
            <span role="status">{`${round.marked} of ${round.scripts} marked`}</span>
          ) : (
            <>
              <span className="text-lg font-semibold">
                {round.mean === null ? "–" : marks(Math.round(round.mean * 10) / 10)}
              </span>
              <span className="text-neutral"> of {marks(round.out_of)} on average</span>
            </>
          )}
        </span>
      </Link>
    </li>
  );
}

/** The marks of a class as one stepped line, lowest to highest. */
function Spread({ spread, outOf }: { spread: readonly number[]; outOf: number }) {
  const width = 240;
  const height = 36;
  const step = width / Math.max(spread.length, 1);
  const y = (value: number) => height - 2 - (value / Math.max(outOf, 1)) * (height - 4);
  const path = spread.map((value, index) => `${index ? "V" : "M0 "}${y(value)}H${(index + 1) * step}`).join("");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Marks from ${spread[0] ?? 0} to ${spread[spread.length - 1] ?? 0}`}
    >
      <path d={`M0 ${y(outOf)}H${width}`} stroke="var(--line)" strokeDasharray="3 3" />
      <path d={path} stroke="var(--ink)" strokeWidth={1.6} fill="none" />
    </svg>
  );
}
