import { CameLane } from "./CameLane";
import type { Layout } from "./layout";
import { OutcomeLane } from "./OutcomeLane";
import { PlaceLane } from "./PlaceLane";
import { PlayerLane } from "./PlayerLane";
import type { ShownTrial } from "./steps";
import type { StripHands } from "./Strip";
import { VariableLane } from "./VariableLane";
import { WordsLane } from "./WordsLane";

interface LanesProps {
  trial: ShownTrial;
  layout: Layout;
  rem: number;
  onInput?: StripHands["onInput"];
}

/** All lanes from the top: what the player did, what came, the variables, the outcome. */
export function Lanes({ trial, layout, rem, onInput }: LanesProps) {
  return (
    <>
      {layout.lanes.map((lane) => (
        <g key={lane.name} data-lane={lane.name}>
          <path d={`M0 ${lane.top + lane.height}H${layout.width}`} stroke="var(--line)" />
          <text x={rem} y={lane.top + Math.min(lane.height / 2, rem * 1.6) + rem * 0.3} className="lane">
            {lane.name}
          </text>
          {lane.kind === "player" ? (
            <PlayerLane trial={trial} lane={lane} layout={layout} rem={rem} onInput={onInput} />
          ) : lane.kind === "came" ? (
            <CameLane trial={trial} lane={lane} layout={layout} rem={rem} />
          ) : lane.kind === "place" ? (
            <PlaceLane trial={trial} lane={lane} layout={layout} rem={rem} />
          ) : lane.kind === "asked" || lane.kind === "answered" || lane.kind === "told" ? (
            <WordsLane trial={trial} lane={lane} layout={layout} rem={rem} />
          ) : lane.kind === "outcome" ? (
            <OutcomeLane trial={trial} lane={lane} layout={layout} rem={rem} />
          ) : (
            <VariableLane trial={trial} lane={lane} layout={layout} rem={rem} />
          )}
        </g>
      ))}
    </>
  );
}
