import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";

import type { RoundSummary } from "../../api/client";
import { benchQuery } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { BENCH } from "../../words/bench";
import { Drafts } from "./Drafts";
import { Exercises } from "./Exercises";
import { RoundLine } from "./RoundLine";

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
          <h1 className="text-2xl font-bold">{BENCH.rounds}</h1>
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
            {BENCH.noMarking(bench.data.marking_trouble)}
          </p>
        ) : null}
        {bench.isPending ? (
          <Loading what="the rounds" />
        ) : bench.isLoadingError ? (
          <Failed what="the rounds" error={bench.error} retry={() => void bench.refetch()} />
        ) : bench.data.rounds.length === 0 ? (
          <p>
            {BENCH.empty[0]}
            <Link to="/classes">{BENCH.empty[1]}</Link>
            {BENCH.empty[2]}
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
          <summary className="cursor-pointer text-primary">{count(older.length, BENCH.earlier)}</summary>
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
