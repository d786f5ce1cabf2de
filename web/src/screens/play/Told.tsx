import { useEffect, useRef } from "react";

import type { PlayView } from "../../api/client";
import { playSound } from "../../scene/sound";
import { clock, show } from "../../values";
import type { Game } from "../../playing/game";
import { Button } from "../../shell/Button";

interface ToldProps {
  play: PlayView;
  game: Game;
  onJoinAgain: () => void;
}

/** What stopped the game, what the variables are, and the story. */
export function Told({ play, game, onJoinAgain }: ToldProps) {
  const end = useRef<HTMLLIElement>(null);
  useEffect(() => {
    end.current?.scrollIntoView({ block: "nearest" });
  }, [game.story.length]);
  useEffect(() => {
    const last = game.sounds.at(-1);
    if (last) playSound(last);
  }, [game.sounds]);
  return (
    <div className="mt-2 flex min-h-0 flex-1 flex-col gap-2 border-t border-base-300 pt-2">
      <Trouble game={game} onJoinAgain={onJoinAgain} />
      {play.variables.length > 0 ? (
        <dl className="flex flex-wrap divide-x divide-base-300" data-values>
          {play.variables.map((variable) => (
            <div
              key={variable.name}
              className="min-w-20 px-3 first:pl-0"
              data-value={variable.name}
              title={variable.meaning}
            >
              <dt className="text-sm text-neutral">{variable.name}</dt>
              <dd className="text-xl leading-6 font-bold">
                {game.moment.frame >= 0 ? show(game.values[variable.name]) : "–"}
              </dd>
            </div>
          ))}
        </dl>
      ) : null}
      <div className="flex min-h-0 flex-1 flex-col">
        <h2 className="flex justify-between text-sm text-neutral">
          Story {game.sounds.length > 0 ? <span>last sound: {game.sounds.at(-1)}</span> : null}
        </h2>
        {game.story.length === 0 ? <p className="text-sm text-neutral">Nothing was told yet.</p> : null}
        <ol className="min-h-0 flex-1 overflow-auto" aria-live="polite">
          {game.story.map((line, index) => (
            <li key={index} className="grid grid-cols-[4rem_1fr]" ref={index === game.story.length - 1 ? end : null}>
              <span className="text-neutral">{clock(line.frame)}</span>
              <span>
                {line.who ? <span className="text-neutral">{line.who}: </span> : null}
                {line.text}
              </span>
            </li>
          ))}
        </ol>
      </div>
    </div>
  );
}

/** Why no game runs: the stop with its line, what cannot be read, or that the game ended. */
function Trouble({ game, onJoinAgain }: { game: Game; onJoinAgain: () => void }) {
  if (game.status === "joining") return <p role="status">Setting the table …</p>;
  if (game.status === "ended") {
    return (
      <div role="alert" className="border-l-2 border-error pl-3">
        <p>{game.why}</p>
        <Button size="xs" className="mt-1" onClick={onJoinAgain}>
          Sit down again
        </Button>
      </div>
    );
  }
  if (game.status === "unread") {
    return (
      <div role="alert" className="border-l-2 border-error pl-3">
        <h2 className="font-semibold">This script cannot be read yet</h2>
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
  if (game.stopped) {
    return (
      <div role="alert" className="border-l-2 border-error pl-3" data-stopped={game.stopped.line}>
        <h2 className="font-semibold">
          The script stopped in line {game.stopped.line}, at {clock(game.stopped.frame)}
        </h2>
        <p>
          <span className="mono">{game.stopped.kind}</span>: {game.stopped.message}
        </p>
      </div>
    );
  }
  return game.status === "over" ? <p role="status">Ten minutes are over. Begin again to play on.</p> : null;
}
