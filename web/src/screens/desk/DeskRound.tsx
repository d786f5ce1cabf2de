import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";

import type { DeskTask, Me } from "../../api/client";
import { askForHelp, checkedAgain, deskQuery, deskRoundQuery, handInText } from "../../api/desk";
import { meQuery } from "../../api/people";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { DESK } from "../../words/desk";
import { Clash } from "./Clash";
import { Partner } from "./Partner";
import { studentSeat } from "../../desk/seat";
import { Table } from "../../desk/Table";
import { Tried } from "../../desk/Tried";
import { type Kept, useKept } from "./useKept";

/** The desk of one student with one exercise that is set. */
export function DeskRound() {
  const found = useQuery(deskRoundQuery(Number(useParams()["round"])));
  const me = useQuery(meQuery);
  if (found.data && me.data) return <AtDesk key={found.data.id} task={found.data} me={me.data} />;
  return (
    <Shell title="Exercise" path={<Link to="/">{DESK.title}</Link>} keys={[]}>
      {found.isLoadingError ? (
        <Failed what="this exercise" error={found.error} retry={() => void found.refetch()} />
      ) : (
        <Loading what="this exercise" />
      )}
    </Shell>
  );
}

function AtDesk({ task, me }: { task: DeskTask; me: Me }) {
  const queries = useQueryClient();
  // what the page was opened with: what comes later changes the line and the tries, and never the text
  const [first] = useState(task);
  const seat = useMemo(() => studentSeat(first), [first]);
  const kept = useKept(task.id, `${me.class_name ?? ""} ${me.name}`, first.text);
  const [handedIn, setHandedIn] = useState<string | null>(null);
  const [error, setError] = useState("");
  const again = () => queries.invalidateQueries({ queryKey: deskRoundQuery(task.id).queryKey });
  const act = async (doing: () => Promise<unknown>) => {
    try {
      await doing();
      setError("");
    } catch (failed) {
      setError((failed as Error).message);
    }
    await again();
  };
  const handIn = () =>
    act(async () => {
      const made = await handInText(task.id, kept.text);
      setHandedIn(DESK.handedIn(made.late));
      await queries.invalidateQueries({ queryKey: deskQuery.queryKey });
    });
  const texts = [
    { name: DESK.starter, text: () => Promise.resolve(first.starter) },
    ...[...task.checked].reverse().map((each) => ({
      name: DESK.tryNumber(each.number),
      text: async () => (await checkedAgain(each.id)).source,
    })),
  ];
  const last = task.tries.at(-1);
  return (
    <Shell
      title={task.title}
      path={
        <>
          <Link to="/">{DESK.title}</Link> / <strong className="text-base-content">{task.title}</strong>
        </>
      }
      aside={
        <>
          <Times task={task} />
          {last ? (
            <Link to={`/own/${last.id}`} className="text-sm underline underline-offset-4" data-handed-in={last.number}>
              {handedIn ?? DESK.handedInAt(last.handed_in_at)}
            </Link>
          ) : null}
          {error ? (
            <span role="alert" className="text-sm text-error">
              {error}
            </span>
          ) : null}
          {task.asking ? (
            <span className="text-sm" role="status" data-asking={task.asking.place}>
              {DESK.inLine(task.asking.place)}{" "}
              <Button look="quiet" size="xs" onClick={() => void act(() => askForHelp(task.id, false))}>
                {DESK.takeBack}
              </Button>
            </span>
          ) : (
            <Button onClick={() => void act(() => askForHelp(task.id, true))}>{DESK.askForHelp}</Button>
          )}
          <Button className="bg-primary text-primary-content" onClick={() => void handIn()} data-hand-in>
            {DESK.handIn}
          </Button>
        </>
      }
      keys={DESK.keys}
    >
      {kept.other ? <Clash mine={kept.text} other={kept.other} onChoose={kept.choose} /> : null}
      <Table
        seat={seat}
        text={kept.text}
        write={kept.write}
        problems={kept.problems}
        keeping={keepingWords(kept)}
        texts={texts}
        tried={<Tried tries={task.checked} />}
        below={<Partner task={task} onDone={again} />}
        onChecked={() => void again()}
      />
    </Shell>
  );
}

function Times({ task }: { task: DeskTask }) {
  const [now] = useState(() => Date.now());
  if (task.excused) return <span className="text-sm text-neutral">{DESK.excused}</span>;
  if (task.closes_at && Date.parse(task.closes_at) < now)
    return <span className="text-sm text-neutral">{DESK.closed}</span>;
  const due = task.due_at ?? task.closes_at;
  if (!due) return null;
  return <span className="text-sm text-neutral">{Date.parse(due) < now ? DESK.lateSince(due) : DESK.until(due)}</span>;
}

function keepingWords(kept: Kept): string {
  switch (kept.state) {
    case "kept":
      return kept.since ? DESK.kept(kept.since) : DESK.keptAlready;
    case "writing":
      return DESK.writing;
    case "away":
      return DESK.away;
    case "clash":
      return DESK.clash;
    case "refused":
      return kept.why;
  }
}
