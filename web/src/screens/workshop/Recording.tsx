import { useEffect, useRef, useState } from "react";

import type { SceneView } from "../../api/client";
import { Button } from "../../shell/Button";
import { clock } from "../../values";
import { LiveScene } from "../../playing/LiveScene";
import { useGame } from "../../playing/useGame";
import type { Hands } from "./useDraft";

interface RecordingProps {
  id: number;
  source: string;
  scenario: number;
  /** The frame from which on the player does other things; up to there the scenario is played as it is. */
  from: number;
  scene: SceneView;
  looks: string;
  hands: Hands;
  onDone: () => void;
}

const SPEEDS = [0.5, 1] as const;

/** The reference played by hand from the scenario's beginning; what was done becomes its inputs, frame exact. */
export function Recording({ id, source, scenario, from, scene, looks, hands, onDone }: RecordingProps) {
  const box = useRef<HTMLDivElement>(null);
  const [speed, setSpeed] = useState<number>(1);
  const { game, say } = useGame(`/api/drafts/${id}/live`, null);
  const begun = useRef(false);
  useEffect(() => {
    if (game.status !== "ready" || begun.current) return;
    begun.current = true;
    say({ say: "begin", source, scenario, frame: from });
    box.current?.focus();
  }, [game.status, say, source, scenario, from]);
  const { change } = hands;
  useEffect(() => {
    if (!game.played) return;
    const inputs = (game.played["input"] ?? []) as Record<string, unknown>[];
    const seconds = Number(game.played["seconds"]);
    void change({ do: "inputs", scenario, inputs, seconds: Math.max(seconds, 0.5) }).then(onDone);
  }, [game.played, change, scenario, onDone]);
  return (
    <div className="flex flex-col gap-1 [&_[data-game]]:max-h-none" data-recording={game.status}>
      <div className="flex flex-wrap items-center gap-x-3 text-sm">
        <span className="text-neutral" role="status">
          {game.status === "ended" || game.status === "unread"
            ? game.why || "The reference cannot be read."
            : game.moment.frame < 0
              ? "The game begins …"
              : `${clock(game.moment.frame)}, ${game.outcome}: the scene takes your keys and clicks`}
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          {SPEEDS.map((each) => (
            <Button
              key={each}
              look="quiet"
              size="xs"
              aria-pressed={speed === each}
              className="aria-pressed:font-bold aria-pressed:text-primary"
              onClick={() => {
                setSpeed(each);
                say({ say: "pace", speed: each });
                box.current?.focus();
              }}
            >
              {each === 1 ? "as it is" : "at half speed"}
            </Button>
          ))}
          <Button size="xs" disabled={game.moment.frame < 1} onClick={() => say({ say: "keep" })}>
            Stop and keep it
          </Button>
          <Button look="quiet" size="xs" onClick={onDone}>
            leave it as it was
          </Button>
        </span>
      </div>
      <LiveScene box={box} scene={scene} looks={looks} game={game} say={say} />
    </div>
  );
}
