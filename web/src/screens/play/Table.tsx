import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";

import type { PlayView } from "../../api/client";
import { Scene } from "../../scene/Scene";
import { clock } from "../../values";
import { Brief } from "./Brief";
import { Deeds } from "./Deeds";
import type { Game } from "./game";
import { keyName } from "./keyNames";
import { Pace } from "./Pace";
import { Told } from "./Told";
import { type Say, useGame } from "./useGame";
import { forget, remember, remembered } from "./draft";
import { Button } from "../../shell/Button";

const ScriptEditor = lazy(() => import("../../script/ScriptEditor"));

interface TableProps {
  play: PlayView;
  /** Under which name an unsaved script survives a reload. */
  draft: string;
}

/** Script, scene and what the game says, side by side. */
export function Table({ play, draft }: TableProps) {
  const [script, setScript] = useState(() => remembered(draft, play.script));
  const [speed, setSpeed] = useState(1);
  const scene = useRef<HTMLDivElement>(null);
  const onChanged = useCallback((source: string) => {
    setScript(source);
    begin.current(source);
  }, []);
  const [game, say, joinAgain] = useGame(play.version_id, onChanged);
  const begin = useRef((source: string) => say({ say: "begin", source, seed: 1 }));
  const start = useCallback(() => {
    begin.current(script);
    say({ say: "pace", speed });
    scene.current?.focus();
  }, [script, speed, say]);

  const write = (text: string) => {
    setScript(text);
    remember(draft, text, play.script);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      start();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [start]);

  return (
    <div className="grid h-full grid-cols-[minmax(0,27fr)_minmax(0,36fr)_minmax(0,17fr)] grid-rows-[minmax(0,1fr)]">
      <section aria-label="Script" className="flex min-h-0 flex-col border-r border-base-300 px-3 pt-2">
        <div className="flex items-baseline justify-between pb-1 text-sm">
          <h2 className="text-neutral">Script</h2>
          {script === play.script ? null : (
            <Button
              look="quiet"
              size="xs"
              onClick={() => {
                setScript(play.script);
                forget(draft);
              }}
            >
              back to the script as it was
            </Button>
          )}
        </div>
        <div className="min-h-0 flex-1">
          <Suspense fallback={<p className="text-neutral">Fetching the editor …</p>}>
            <ScriptEditor text={script} onChange={write} wrong={wrongLines(game)} />
          </Suspense>
        </div>
      </section>
      <section aria-label="Game" className="flex min-h-0 flex-col border-r border-base-300 px-4 pt-2 pb-3">
        <div className="flex items-center justify-between pb-1 text-sm text-neutral">
          <h2>
            Scene{game.moment.frame >= 0 ? ` at ${clock(game.moment.frame)}` : ""},{" "}
            {game.stopped ? "stopped" : game.outcome}
          </h2>
          <Pace
            game={game}
            changed={game.source !== "" && game.source !== script}
            speed={speed}
            onSpeed={setSpeed}
            onStart={start}
            say={say}
          />
        </div>
        <LiveScene box={scene} play={play} game={game} say={say} />
        <Deeds scene={play.scene} game={game} say={say} />
        <Told play={play} game={game} onJoinAgain={joinAgain} />
      </section>
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard */}
      <section aria-label="Brief" tabIndex={0} className="min-h-0 overflow-auto px-4 pt-2 pb-3">
        <Brief text={play.brief} />
      </section>
    </div>
  );
}

interface LiveSceneProps {
  box: React.RefObject<HTMLDivElement | null>;
  play: PlayView;
  game: Game;
  say: Say;
}

/** The scene takes keys while it has the focus, and clicks. */
function LiveScene({ box, play, game, say }: LiveSceneProps) {
  const down = useRef(new Set<string>());
  const moved = (key: string, how: "down" | "up") => {
    if (how === "down") down.current.add(key);
    else down.current.delete(key);
    say({ say: "did", inputs: [{ do: how, key }] });
  };
  const release = () => {
    for (const key of [...down.current]) moved(key, "up");
  };
  return (
    // The scene is what the keys go to, as in any game; Esc gives the focus on.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <div
      ref={box}
      role="application"
      aria-label="The game: keys go to it while it has the focus"
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      className="relative max-h-3/5 min-h-0 shrink-0"
      data-game={game.status}
      onKeyDown={(event) => {
        if (event.key === "Escape") box.current?.blur();
        const key = event.ctrlKey || event.metaKey || event.altKey ? null : keyName(event.key);
        if (!key || game.status !== "playing") return;
        event.preventDefault();
        if (!event.repeat && !down.current.has(key)) moved(key, "down");
      }}
      onKeyUp={(event) => {
        const key = keyName(event.key);
        if (key && down.current.has(key)) moved(key, "up");
      }}
      onBlur={release}
    >
      <Scene
        scene={play.scene}
        moment={game.moment}
        version={play.version_id}
        onClick={([x, y]) => say({ say: "did", inputs: [{ do: "click", what: "", value: [x, y] }] })}
      />
      {game.status === "ready" ? (
        <p className="absolute inset-x-0 top-1/3 text-center">
          <span className="bg-base-100 px-3 py-1">Choose “Play”, or press ctrl Enter.</span>
        </p>
      ) : null}
    </div>
  );
}

/** The lines that stopped the game or cannot be read. */
function wrongLines(game: Game): number[] {
  if (game.stopped) return [game.stopped.line];
  return game.problems.map((problem) => problem.line);
}
