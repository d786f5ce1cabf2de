import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";

import type { PlayView } from "../../api/client";
import { clock } from "../../values";
import { Brief } from "../../shell/Brief";
import { Deeds } from "./Deeds";
import type { Game } from "../../playing/game";
import { LiveScene } from "../../playing/LiveScene";
import { Pace } from "./Pace";
import { Told } from "./Told";
import { useGame } from "../../playing/useGame";
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
  const [game, say, joinAgain] = useGame(`/api/exercises/${play.version_id}/live`, onChanged);
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
        <LiveScene
          box={scene}
          scene={play.scene}
          looks={`/api/exercises/${play.version_id}/looks`}
          game={game}
          say={say}
        />
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

/** The lines that stopped the game or cannot be read. */
function wrongLines(game: Game): number[] {
  if (game.stopped) return [game.stopped.line];
  return game.problems.map((problem) => problem.line);
}
