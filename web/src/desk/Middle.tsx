import { type ReactNode, type RefObject, useEffect, useMemo } from "react";
import { Link } from "react-router";

import { LiveScene } from "../playing/LiveScene";
import { momentAt } from "../scene/moment";
import { Scene } from "../scene/Scene";
import { playSound } from "../scene/sound";
import { Button } from "../shell/Button";
import { DESK } from "../words/desk";
import { Controls } from "../watching/Controls";
import { Beginning } from "./Beginning";
import { Deeds } from "./Deeds";
import type { Seat } from "./seat";
import { Log, Told } from "./Told";
import { Trouble } from "./Trouble";
import type { Run } from "./useRun";
import { Values } from "./Values";

interface MiddleProps {
  seat: Seat;
  run: Run;
  box: RefObject<HTMLDivElement | null>;
  onPlay: () => void;
  tried: ReactNode;
}

const SPEEDS = [
  { speed: 0.25, words: "¼" },
  { speed: 0.5, words: "½" },
  { speed: 1, words: "1" },
] as const;

/** The scene, played by hand or looked at, and what everything is in its frame. */
export function Middle({ seat, run, box, onPlay, tried }: MiddleProps) {
  const { game, playing, looked, trial, frame, head, dispatch } = run;
  const trace = trial?.trace ?? null;
  const moment = useMemo(
    () => (!playing && trial?.trace && trial.asides ? momentAt(trial.scene, trial.trace, trial.asides, frame) : null),
    [playing, trial, frame],
  );
  useEffect(() => {
    const last = game.sounds.at(-1);
    if (last) playSound(last);
  }, [game.sounds]);
  const bare = seat.scene.pieces.length === 0 && seat.scene.kinds.length === 0;
  const name =
    looked?.kind === "scenario" && !playing ? looked.trial.scenario : playing || looked ? DESK.byHand : DESK.scene;
  const live = playing || !moment;
  return (
    <section
      aria-label={DESK.scene}
      className="flex min-h-0 flex-col overflow-y-auto border-r border-base-300 px-4 pt-2"
    >
      <div className="flex flex-wrap items-center justify-between gap-x-3 pb-1 text-sm text-neutral">
        <h2 data-showing={playing ? "game" : (looked?.kind ?? "nothing")}>
          {DESK.at(name, playing ? game.moment.frame : looked ? frame : -1, trial?.unit ?? "frame")}
        </h2>
        {playing ? <Pace run={run} /> : looked ? <Controls head={head} dispatch={dispatch} /> : null}
      </div>
      {bare ? null : live ? (
        <LiveScene box={box} scene={seat.scene} looks={seat.looks} game={game} say={run.say} hint={DESK.beforeGame} />
      ) : (
        <div className="max-h-3/5 min-h-40 shrink-0" data-looked={frame}>
          <Scene scene={seat.scene} moment={moment} looks={seat.looks} />
        </div>
      )}
      <Beginning seat={seat} run={run} onPlay={onPlay} />
      {playing ? <Deeds scene={seat.scene} game={game} say={run.say} /> : null}
      <Trouble game={game} playing={playing} stopped={trace?.stopped ?? null} />
      <Values run={run} seat={seat} />
      {seat.keeps ? <Keeping run={run} /> : null}
      <Told
        story={playing ? game.story : (trace?.story ?? [])}
        until={playing ? Infinity : frame}
        tall={bare}
        unit={trial?.unit ?? "frame"}
      />
      <Log log={playing ? [] : (trace?.log ?? [])} until={frame} unit={trial?.unit ?? "frame"} />
      {tried}
    </section>
  );
}

/** How fast a game runs, and that it holds. */
function Pace({ run }: { run: Run }) {
  return (
    <fieldset className="flex" aria-label="Speed">
      {SPEEDS.map(({ speed, words }) => (
        <Button
          key={speed}
          look="quiet"
          size="xs"
          className="aria-pressed:font-bold aria-pressed:text-primary aria-pressed:underline aria-pressed:underline-offset-4"
          aria-label={`Speed ${words}`}
          aria-pressed={run.speed === speed}
          onClick={() => run.pace(speed)}
        >
          {words}
        </Button>
      ))}
      <Button look="quiet" size="xs" onClick={() => run.pace(0)} data-hold>
        {DESK.hold}
      </Button>
    </fieldset>
  );
}

/** A teacher keeps what was played as a trial, beside what the reference does. */
function Keeping({ run }: { run: Run }) {
  const { game } = run;
  return (
    <p className="pt-1 text-sm">
      {game.kept !== null ? (
        <Link to={`/plays/${game.kept}`} className="text-primary underline underline-offset-4">
          see it beside the reference
        </Link>
      ) : (
        <Button look="quiet" size="xs" disabled={game.moment.frame < 0} onClick={() => run.say({ say: "keep" })}>
          keep this game as a trial
        </Button>
      )}
    </p>
  );
}
