import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";

import type { PlayView, ProblemReport } from "../../api/client";
import { playQuery } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { DESK } from "../../words/desk";
import { forget, remember, remembered } from "../../desk/draft";
import { teacherSeat } from "../../desk/seat";
import { Table } from "../../desk/Table";

/** An exercise at a teacher's desk: the same as a student's, with everything shown, and nothing handed in. */
export function Play() {
  const version = Number(useParams()["version"]);
  const asked = useSearchParams()[0].get("try");
  const submissionId = asked === null ? null : Number(asked);
  const play = useQuery(playQuery(version, submissionId));
  if (!play.data) {
    return (
      <Shell title="Play" path="Play" keys={DESK.keys}>
        {play.isLoadingError ? (
          <Failed what="this exercise" error={play.error} retry={() => void play.refetch()} />
        ) : (
          <Loading what="the exercise" />
        )}
      </Shell>
    );
  }
  return (
    <Shell title={`Play: ${play.data.title}`} path={`${play.data.title} / by hand`} keys={DESK.keys}>
      <AtDesk
        key={`${version} ${submissionId}`}
        play={play.data}
        draft={`hob-script ${version} ${submissionId ?? "starter"}`}
      />
    </Shell>
  );
}

const QUIET = 600; // milliseconds without a change after which a text is read

function AtDesk({ play, draft }: { play: PlayView; draft: string }) {
  const seat = useMemo(() => teacherSeat(play), [play]);
  const [text, setText] = useState(() => remembered(draft, play.script));
  const [problems, setProblems] = useState<readonly ProblemReport[]>([]);
  const write = (changed: string) => {
    setText(changed);
    remember(draft, changed, play.script);
  };
  useEffect(() => {
    let latest = true;
    const timer = window.setTimeout(() => {
      seat.read?.(text).then(
        (found) => latest && setProblems(found),
        () => undefined, // whoever plays is told by the game itself
      );
    }, QUIET);
    return () => {
      latest = false;
      window.clearTimeout(timer);
    };
  }, [seat, text]);
  const asItWas = { name: DESK.asItWas, text: () => Promise.resolve(play.script) };
  const starter = { name: DESK.starter, text: () => Promise.resolve(play.starter) };
  return (
    <Table
      seat={seat}
      text={text}
      write={(changed) => {
        write(changed);
        if (changed === play.script) forget(draft);
      }}
      problems={problems}
      keeping={text === play.script ? "" : DESK.inBrowser}
      texts={play.script === play.starter ? [asItWas] : [asItWas, starter]}
      tried={null}
    />
  );
}
