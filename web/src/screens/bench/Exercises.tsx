import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { ExerciseHead, RoundSummary } from "../../api/client";
import { openRound } from "../../api/queries";
import { Button } from "../../shell/Button";
import { count, marks } from "../../values";
import { BENCH } from "../../words/bench";
import { Begin } from "./Drafts";
import { Spread } from "./RoundLine";

interface ExercisesProps {
  exercises: readonly ExerciseHead[];
  classes: readonly string[];
  rounds: readonly RoundSummary[];
}

/** The exercises, each to be set, played by hand, printed, or changed. */
export function Exercises({ exercises, classes, rounds }: ExercisesProps) {
  return (
    <section aria-labelledby="exercises">
      <h2 id="exercises" className="mt-10 mb-4 text-2xl font-bold">
        {BENCH.exercises}
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
                {BENCH.play}
              </Link>
              <Link to={`/exercises/${exercise.version_id}/paper`} className="underline underline-offset-4">
                {BENCH.paper}
              </Link>
              <Begin
                version={exercise.version_id}
                words={BENCH.toWorkshop}
                label={BENCH.toWorkshopOf(exercise.title)}
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
      <button type="button" className="link" aria-label={BENCH.openOf(exercise.title)} onClick={() => setAsking(true)}>
        {BENCH.open}
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
        {BENCH.class_}
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
        {BENCH.openIt}
      </Button>
      {opening.isError ? (
        <span role="alert" className="text-error">
          {opening.error.message}
        </span>
      ) : null}
    </form>
  );
}
