import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";

import { playQuery } from "../../api/queries";
import { type KeyHelp, Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { Table } from "./Table";

const KEYS: readonly KeyHelp[] = [
  { keys: "ctrl Enter", does: "plays the script, from anywhere on this screen" },
  { keys: "Esc", does: "leaves the scene or the script, so that Tab goes on" },
  { keys: "any key", does: "goes to the game while the scene has the focus" },
];

/** An exercise that is played by hand, with a script that can be changed beside it. */
export function Play() {
  const version = Number(useParams()["version"]);
  const asked = useSearchParams()[0].get("try");
  const submissionId = asked === null ? null : Number(asked);
  const play = useQuery(playQuery(version, submissionId));
  if (!play.data) {
    return (
      <Shell title="Play" path="Play" keys={KEYS}>
        {play.isLoadingError ? (
          <Failed what="this exercise" error={play.error} retry={() => void play.refetch()} />
        ) : (
          <Loading what="the exercise" />
        )}
      </Shell>
    );
  }
  return (
    <Shell title={`Play: ${play.data.title}`} path={`${play.data.title} / by hand`} keys={KEYS}>
      <Table
        key={`${version} ${submissionId}`}
        play={play.data}
        draft={`hob-script ${version} ${submissionId ?? "starter"}`}
      />
    </Shell>
  );
}
