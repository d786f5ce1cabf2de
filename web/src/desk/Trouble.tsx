import type { StopView } from "../api/client";
import type { Game } from "../playing/game";
import { clock } from "../values";
import { DESK } from "../words/desk";

interface TroubleProps {
  game: Game;
  playing: boolean;
  /** Why what is looked at stopped. */
  stopped: StopView | null;
}

/** Why no game runs, or why a run ended: in plain words first, Python's own after. */
export function Trouble({ game, playing, stopped }: TroubleProps) {
  const stop = playing ? game.stopped : stopped;
  if (playing && game.status === "joining") return <p role="status">{DESK.joining}</p>;
  if (playing && game.status === "ended") {
    return (
      <p role="alert" className="border-l-2 border-error pl-3">
        {game.why}
      </p>
    );
  }
  if (playing && game.status === "unread") {
    return (
      <div role="alert" className="border-l-2 border-error pl-3">
        <h3 className="font-semibold">{DESK.cannotRead}</h3>
        <ul>
          {game.problems.map((problem) => (
            <li key={`${problem.line} ${problem.column} ${problem.kind}`}>
              Line {problem.line}: {problem.message} {problem.instead}
            </li>
          ))}
        </ul>
      </div>
    );
  }
  if (stop) {
    return (
      <div role="alert" className="mt-1 border-l-2 border-error pl-3 text-sm" data-stopped={stop.line}>
        <h3 className="font-semibold">{DESK.stopped(clock(stop.frame))}</h3>
        <p>{stop.plain}</p>
        {stop.plain.includes(stop.message) ? null : (
          <p className="text-neutral">{DESK.pythonSays(stop.kind, stop.message)}</p>
        )}
      </div>
    );
  }
  return playing && game.status === "over" ? <p role="status">{DESK.tenMinutes}</p> : null;
}
