import { Link } from "react-router";

import type { Game } from "../../playing/game";
import type { Say } from "../../playing/useGame";
import { Button } from "../../shell/Button";

interface PaceProps {
  game: Game;
  /** The script is another one than the one that is played. */
  changed: boolean;
  speed: number;
  onSpeed: (speed: number) => void;
  onStart: () => void;
  say: Say;
}

const SPEEDS = [
  { speed: 0, words: "hold", label: "Hold" },
  { speed: 0.5, words: "½", label: "Speed ½" },
  { speed: 1, words: "1", label: "Speed 1" },
] as const;

/** Begin, how fast, and keep what was played. */
export function Pace({ game, changed, speed, onSpeed, onStart, say }: PaceProps) {
  const begun = game.moment.frame >= 0 || game.status === "over";
  return (
    <div className="flex items-center gap-2">
      <fieldset className="flex" aria-label="Speed">
        {SPEEDS.map((each) => (
          <Button
            key={each.speed}
            look="quiet"
            size="xs"
            className="aria-pressed:font-bold aria-pressed:text-primary aria-pressed:underline aria-pressed:underline-offset-4"
            aria-label={each.label}
            aria-pressed={speed === each.speed}
            onClick={() => {
              onSpeed(each.speed);
              say({ say: "pace", speed: each.speed });
            }}
          >
            {each.words}
          </Button>
        ))}
      </fieldset>
      {game.kept !== null ? (
        <Link to={`/plays/${game.kept}`} className="text-primary underline underline-offset-4">
          see it on the strip
        </Link>
      ) : (
        <Button look="quiet" size="xs" disabled={game.moment.frame < 0} onClick={() => say({ say: "keep" })}>
          keep as a trial
        </Button>
      )}
      <Button size="xs" disabled={game.status === "joining" || game.status === "ended"} onClick={onStart}>
        {!begun ? "Play" : changed ? "Play the changed script" : "From the beginning"}
      </Button>
    </div>
  );
}
