import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { ProblemReport } from "../api/client";
import { NO_MARKS } from "../script/lineMarks";
import { Strip } from "../strip/Strip";
import { DESK } from "../words/desk";
import { idleLines, lineCounts, linesIn } from "../watching/lines";
import { nextBroken } from "../watching/moments";
import { valuesAt } from "../watching/tie";
import { useKeys } from "../watching/useKeys";
import { show as inText } from "../values";
import { Middle } from "./Middle";
import { OnShow } from "./OnShow";
import { saidAt } from "./saying";
import type { Seat } from "./seat";
import { Side } from "./Side";
import { useChecked } from "./useChecked";
import { useRun } from "./useRun";
import { Writing } from "./Writing";

interface TableProps {
  seat: Seat;
  text: string;
  write: (text: string) => void;
  problems: readonly ProblemReport[];
  /** How the text is kept, in words. */
  keeping: ReactNode;
  /** Texts that can be got back, by name. */
  texts: readonly { name: string; text: () => Promise<string> }[];
  /** The tries so far. */
  tried: ReactNode;
  /** What stands below the tasks. */
  below?: ReactNode;
  /** Hears that a text was checked. */
  onChecked?: () => void;
}

/** A desk: script, scene, tasks, and the strip of whatever is looked at. The same for a student and for a teacher. */
export function Table({ seat, text, write, problems, keeping, texts, tried, below, onChecked }: TableProps) {
  const checking = useChecked(seat);
  const { checked } = checking;
  const run = useRun(seat, text, write);
  const { trial, frame, looked, playing, game } = run;
  const scene = useRef<HTMLDivElement>(null);
  const [shownFinding, setShownFinding] = useState<number | null>(null);

  const check = useCallback(async () => {
    const found = await checking.check(text);
    onChecked?.();
    const first = found?.scenarios.find((row) => row.checks.some((each) => each.verdict !== "held"));
    if (found && first && !playing) await run.open(found, first.number, null);
  }, [checking, text, onChecked, playing, run]);
  const play = useCallback(() => run.play(), [run]);
  useEffect(() => {
    if (playing) scene.current?.focus(); // whoever plays does not look for the scene first
  }, [playing, game.source]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      if (event.shiftKey) play();
      else void check();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [check, play]);

  const { dispatch, chosen, setChosen } = run;
  const onCheck = useCallback(
    (index: number, at: number) => {
      setChosen(index);
      dispatch({ do: "seek", frame: at });
    },
    [dispatch, setChosen],
  );
  useKeys(playing ? null : trial, run.head, dispatch, {
    broken: () => {
      const next = trial && nextBroken(trial, run.head.frame, chosen);
      if (next) onCheck(next.check, next.frame);
    },
    words: () => undefined,
  });
  const hands = useMemo(
    () => ({ onSeek: (at: number) => dispatch({ do: "seek", frame: at }), onCheck, onPin: () => undefined }),
    [dispatch, onCheck],
  );

  const trace = trial?.trace ?? null;
  const same = looked?.source === text && !playing;
  const lines = checked?.findings?.find((each) => each.index === shownFinding)?.lines;
  const marks = useMemo(() => {
    const wrong = new Map(problems.map((each) => [each.line, `${each.message} ${each.instead}`.trim()]));
    const stopped = game.stopped && game.source === text ? [game.stopped.line] : [];
    if (problems.length) return { ...NO_MARKS, suspect: [...wrong.keys()], values: wrong };
    if (!trace || !same) return { ...NO_MARKS, suspect: stopped };
    const counts = lineCounts(trace);
    const suspect = [...(lines ?? []), ...(trace.stopped ? [trace.stopped.line] : []), ...stopped];
    return {
      ...NO_MARKS,
      running: linesIn(trace, frame),
      idle: idleLines(text, counts),
      suspect,
      values: valuesAt(trace, suspect, frame, inText),
    };
  }, [problems, game, trace, same, lines, text, frame]);

  return (
    <div
      className="grid h-full min-h-[38rem] grid-cols-[minmax(0,1fr)] grid-rows-[minmax(19rem,1fr)_auto] overflow-y-auto max-[56rem]:grid-rows-[auto_auto]"
      data-seat={seat.id}
    >
      <div className="grid min-h-0 grid-cols-[minmax(0,27fr)_minmax(0,33fr)_minmax(0,21fr)] grid-rows-[minmax(0,1fr)] max-[56rem]:grid-cols-[minmax(0,1fr)] max-[56rem]:grid-rows-[20rem_auto_auto]">
        <Writing
          text={text}
          write={write}
          marks={marks}
          reveal={lines?.[0] ?? game.stopped?.line ?? null}
          keeping={keeping}
          texts={texts}
          onCheck={() => void check()}
          scene={seat.scene}
        />
        <Middle seat={seat} run={run} box={scene} onPlay={play} tried={tried} />
        <Side
          seat={seat}
          run={run}
          checking={checking}
          outdated={checked !== null && checked.source !== text}
          onFinding={setShownFinding}
          below={below}
        />
      </div>
      <div className="border-t border-base-300">
        <OnShow run={run} seat={seat} checked={checked} />
        {trial ? (
          <Strip trial={trial} frame={frame} chosen={playing ? null : chosen} {...(playing ? {} : { hands })} />
        ) : (
          <p className="px-5 py-6 text-neutral">{DESK.beforeGame}</p>
        )}
      </div>
      <p className="sr-only" aria-live="polite" data-said>
        {trial && !playing ? saidAt(trial, frame) : ""}
      </p>
    </div>
  );
}
