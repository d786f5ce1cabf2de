import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";

import type { RoundView } from "../../api/client";
import { markAgain, roundQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { Dates, Without } from "./Dates";
import { Groups } from "./Groups";
import { HandIn } from "./HandIn";
import { RoundTable } from "./RoundTable";
import { type Order, sorted } from "./order";
import { Versions } from "./Versions";
import { Button } from "../../shell/Button";

const KEYS = [
  { keys: "Tab", does: "goes to the table, then to the groups" },
  { keys: "arrows", does: "move in the table" },
  { keys: "Enter", does: "opens the trial of a cell" },
  { keys: "Escape", does: "shows the whole class again" },
] as const;

/** A class and an exercise: students down, scenarios across, and what to teach next. */
export function Round() {
  const id = Number(useParams()["round"]);
  const round = useQuery(roundQuery(id));
  const [search, setSearch] = useSearchParams();
  const [order, setOrder] = useState<Order>("worst");
  const chosen = search.get("group");
  const choose = (key: string | null) => setSearch(key === null ? {} : { group: key }, { replace: true });

  if (round.isPending) {
    return (
      <Shell title="Round" path="Round" keys={KEYS}>
        <Loading what="the round" />
      </Shell>
    );
  }
  if (round.isLoadingError) {
    return (
      <Shell title="Round" path="Round" keys={KEYS}>
        <Failed what="this round" error={round.error} retry={() => void round.refetch()} />
      </Shell>
    );
  }
  const data = round.data;
  const group = data.groups.find((each) => each.key === chosen) ?? null;
  const students = sorted(data.students, order).filter(
    (row) => !group || group.submission_ids.includes(row.submission_id),
  );
  return (
    <Shell
      title={`${data.title}, class ${data.class_name}`}
      path={
        <>
          <strong className="text-base-content">{data.title}</strong> / class{" "}
          <strong className="text-base-content">{data.class_name}</strong> / round of{" "}
          {new Date(data.opened_at).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}
        </>
      }
      aside={<Progress round={data} />}
      keys={KEYS}
    >
      <div
        className="grid h-full grid-cols-[minmax(0,21fr)_minmax(0,10fr)] grid-rows-[minmax(0,1fr)]"
        role="presentation"
        onKeyDown={(event) => event.key === "Escape" && group && choose(null)}
      >
        <div className="relative overflow-auto px-5 pb-6">
          <HandIn round={data} />
          <Versions round={data} />
          <Dates round={data} />
          {data.marking_trouble !== null ? (
            <p role="alert" className="py-1 text-error">
              Marking is not running just now, since {data.marking_trouble}. It begins again by itself.
            </p>
          ) : null}
          {data.students.length === 0 ? (
            <p className="py-8">
              Nobody in this class has handed in a script yet. Drop .py files or a zip of them here.
            </p>
          ) : (
            <RoundTable round={data} students={students} order={order} onOrder={setOrder} />
          )}
          <Without round={data} />
          <PartsOfClass round={data} />
        </div>
        <Groups round={data} chosen={group} onChoose={choose} />
      </div>
    </Shell>
  );
}

/** What the whole class earned for each concept and task. */
function PartsOfClass({ round }: { round: RoundView }) {
  const parts = [...Object.entries(round.by_concept), ...Object.entries(round.by_task)].filter(
    ([, part]) => part.out_of > 0,
  );
  if (parts.length === 0) return null;
  return (
    <p className="mt-3 flex flex-wrap gap-x-5 text-sm text-neutral" aria-label="Marks of the class">
      {parts.map(([name, part]) => (
        <span key={name}>
          {name} <strong className="text-base-content">{Math.round((100 * part.marks) / part.out_of)} %</strong>
        </span>
      ))}
    </p>
  );
}

function Progress({ round }: { round: RoundView }) {
  const again = useChange(() => markAgain(round.id), roundQuery(round.id));
  const all = round.students.length;
  const marking = round.done < all;
  return (
    <>
      {again.isError ? <span role="alert">{again.error.message}</span> : null}
      {marking ? (
        <span role="status" className="flex items-center gap-2 text-neutral">
          <progress className="progress progress-primary w-28" value={round.done} max={all} aria-label="Marking" />
          {`${round.done} of ${all} marked`}
        </span>
      ) : (
        <span role="status" className="text-neutral">
          {count(all, "script")}, {count(round.trials, "trial")}
          {round.seconds ? `, marked in ${round.seconds.toFixed(1)} s` : ""}
        </span>
      )}
      <Button disabled={marking || again.isPending} onClick={() => again.mutate(undefined)}>
        Mark again
      </Button>
    </>
  );
}
