import { useRef } from "react";

import type { SceneView } from "../api/client";
import { Scene } from "../scene/Scene";
import type { Game } from "./game";
import { keyName } from "./keyNames";
import type { Say } from "./useGame";

interface LiveSceneProps {
  box: React.RefObject<HTMLDivElement | null>;
  scene: SceneView;
  /** Where its own pictures are. */
  looks: string;
  game: Game;
  say: Say;
  /** What to do before a game has begun. */
  hint?: string;
}

/** The scene takes keys while it has the focus, and clicks. */
export function LiveScene({ box, scene, looks, game, say, hint = "" }: LiveSceneProps) {
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
        scene={scene}
        moment={game.moment}
        looks={looks}
        onClick={([x, y]) => say({ say: "did", inputs: [{ do: "click", what: "", value: [x, y] }] })}
      />
      {game.status === "ready" && hint ? (
        <p className="absolute inset-x-0 top-1/3 px-6 text-center">
          <span className="bg-base-100 px-3 py-1">{hint}</span>
        </p>
      ) : null}
    </div>
  );
}
