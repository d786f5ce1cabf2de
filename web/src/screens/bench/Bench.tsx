import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { ExerciseHead, RoundSummary } from "../../api/client";
import { benchQuery, openRound } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count, marks } from "../../values";
import { Button } from "../../shell/Button";

/** What waits: the rounds, with one click to each. */
export function Bench() {
  const bench = useQuery(benchQuery);
  return (
    <Shell title="Bench" path="Bench" headed keys={[{ keys: "Tab, Enter", does: "chooses a round" }]}>
      <div className="mx-auto max-w-4xl px-6 py-8">
        <h1 className="mb-4 text-2xl font-bold">Rounds</h1>
        {bench.isPending ? (
          <Loading what="the rounds" />
        ) : bench.isError ? (
          <Failed what="the rounds" error={bench.error} retry={() => void bench.refetch()} />
        ) : bench.data.rounds.length === 0 ? (
          <p>
            No class has handed in anything yet. <code>./hob demo</code> loads an exercise and a class to look at.
          </p>
        ) : (
          <ul>
            {bench.data.rounds.map((round) => (
              <RoundLine key={round.id} round={round} />
            ))}
          </ul>
        )}
        {bench.data && bench.data.exercises.length > 0 ? (
          <Exercises exercises={bench.data.exercises} classes={bench.data.classes} />
        ) : null}
      </div>
    </Shell>
  );
}

/** The exercises, each to be played by hand. */
function Exercises({ exercises, classes }: { exercises: readonly ExerciseHead[]; classes: readonly string[] }) {
  return (
    <section aria-labelledby="exercises">
      <h2 id="exercises" className="mt-10 mb-4 text-2xl font-bold">
        Exercises
      </h2>
      <ul>
        {exercises.map((exercise) => (
          <li
            key={exercise.version_id}
            className="grid grid-cols-[1fr_auto] items-baseline gap-6 border-t border-base-300 py-3 last:border-b"
          >
            <span>
              <span className="text-lg font-semibold">{exercise.title}</span>{" "}
              <span className="text-neutral">
                {count(exercise.scenarios, "scenario")}, {marks(exercise.out_of)} marks
              </span>
            </span>
            <span className="flex items-baseline gap-5">
              <OpenRound exercise={exercise} classes={classes} />
              <Link to={`/exercises/${exercise.version_id}/play`} className="text-primary underline underline-offset-4">
                play by hand
              </Link>
            </span>
          </li>
        ))}
      </ul>
    </section>
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
