import { clock } from "../values";
import type { LaneProps } from "./VariableLane";

/** Where the player is: a band that begins again with each place. */
export function PlaceLane({ trial, lane, layout, rem }: LaneProps) {
  const places = trial.asides?.places ?? [];
  const y = lane.top + lane.height * 0.2;
  const height = lane.height * 0.6;
  return (
    <>
      {places.map((each, index) => {
        const x = layout.x(Math.max(each.frame, 0));
        const end = layout.x(places[index + 1]?.frame ?? trial.last_frame);
        return (
          <g key={`${each.frame} ${index}`} role="img" aria-label={`in ${each.place} from ${clock(each.frame)}`}>
            <title>{each.place}</title>
            <path d={`M${x} ${y}v${height}M${x} ${y + height / 2}H${end}`} stroke="var(--pencil)" fill="none" />
            {end - x > rem * 2 ? (
              <text x={x + 5} y={y + height / 2 - 2} stroke="var(--color-base-100)" strokeWidth={3} paintOrder="stroke">
                {each.place}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
}
