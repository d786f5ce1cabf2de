import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import { keptQuery, keptTrialQuery } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { KEYS } from "./keys";
import { Watching } from "./Watching";

/** A game that was played by hand, as a trial on the strip. */
export function Kept() {
  const id = Number(useParams()["play"]);
  const kept = useQuery(keptQuery(id));
  const trial = useQuery(keptTrialQuery(id));
  const failed = kept.error ?? trial.error;
  if (failed || !kept.data || !trial.data) {
    return (
      <Shell title="Played by hand" path="Played by hand" keys={KEYS}>
        {failed ? (
          <Failed what="this game" error={failed} retry={() => void Promise.all([kept.refetch(), trial.refetch()])} />
        ) : (
          <Loading what="the game" />
        )}
      </Shell>
    );
  }
  const path = (
    <>
      <Link to={`/exercises/${kept.data.version_id}/play`} className="underline underline-offset-4">
        {kept.data.title}
      </Link>{" "}
      / played by hand
    </>
  );
  return (
    <Shell title={`${kept.data.title}, played by hand`} path={path} keys={KEYS}>
      {trial.data.trace && trial.data.asides ? (
        <Watching
          key={id}
          subject={{ source: kept.data.source, label: "Script of the game", submission: null }}
          scenario={0}
          trial={trial.data}
        />
      ) : (
        <p className="p-6">The script of this game cannot be read any more.</p>
      )}
    </Shell>
  );
}
