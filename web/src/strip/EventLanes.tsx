import { clock, type History, show } from "../values";
import type { Layout } from "./layout";
import type { LaneProps } from "./VariableLane";

/** What the player did: a bar while a key is held, a tick for a press. */
export function PlayerLane({ trial, lane, layout, rem }: LaneProps) {
  const top = lane.top + lane.height * 0.2;
  const height = lane.height * 0.6;
  return (
    <>
      {trial.inputs.map((input) => {
        const x = layout.x(input.down);
        const label = `${input.key}, from ${clock(input.down)} to ${clock(input.up)}`;
        return input.held ? (
          <g key={`${input.key} ${input.down}`} role="img" aria-label={`hold ${label}`}>
            <rect x={x} y={top} width={Math.max(layout.x(Math.min(input.up, trial.last_frame)) - x, 2)} height={height} fill="var(--ink-tint)" stroke="var(--pencil)" />
            <text x={x + 5} y={top + height / 2 + rem * 0.27}>
              {input.key}
            </text>
          </g>
        ) : (
          <g key={`${input.key} ${input.down}`} role="img" aria-label={`press ${input.key} at ${clock(input.down)}`}>
            <path d={`M${x} ${top}v${height}`} stroke="var(--ink)" strokeWidth={2.4} />
            <text x={x + 5} y={top + height / 2 + rem * 0.27}>
              {input.key}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** What came: bars while pieces overlap, ticks for lines of the story; hollow where nobody handled it. */
export function CameLane({ trial, lane, layout, rem }: LaneProps) {
  const top = lane.top + lane.height * 0.25;
  const height = lane.height * 0.5;
  const middle = lane.top + lane.height / 2;
  const steering = new Set(trial.scene.pieces.flatMap((piece) => piece.keys));
  const unheard = (trial.trace?.events ?? []).filter(
    (event) => event.handlers.length === 0 && event.event.startsWith("pressed(") && !steering.has(event.event.slice(9, -2)),
  );
  return (
    <>
      {trial.overlaps.map((overlap) => {
        const x = layout.x(overlap.first);
        const width = Math.max(layout.x(overlap.last + 1) - x, 4);
        const words = overlap.pair.join(" and ");
        return (
          <g key={`${words} ${overlap.first}`} role="img" aria-label={`${words} overlap from ${clock(overlap.first)}${overlap.handled ? "" : ", nobody handles it"}`}>
            <title>{words}</title>
            <rect x={x} y={top} width={width} height={height} fill={overlap.handled ? "var(--pencil)" : "var(--color-base-100)"} stroke="var(--pencil)" />
            {width > rem * 3 ? (
              <text x={x + 4} y={middle + rem * 0.27} style={{ fill: overlap.handled ? "var(--color-base-100)" : "var(--ink)" }}>
                {overlap.pair[1]}
              </text>
            ) : null}
          </g>
        );
      })}
      {unheard.map((event) => (
        <g key={`${event.event} ${event.frame}`} role="img" aria-label={`${event.event} at ${clock(event.frame)}: nobody listens`}>
          <circle cx={layout.x(event.frame)} cy={middle} r={4} fill="var(--color-base-100)" stroke="var(--pencil)" strokeWidth={1.4} />
          <text className="pencil" x={layout.x(event.frame) + 8} y={middle + rem * 0.27}>
            nobody listens
          </text>
        </g>
      ))}
      {(trial.trace?.story ?? []).map((line, place) => (
        <g key={`${line.frame} ${place}`} role="img" aria-label={`told at ${clock(line.frame)}: ${line.text}`}>
          <title>{line.text}</title>
          <path d={`M${layout.x(Math.max(line.frame, 0))} ${top}v${height}m0 0l4 -4m-4 4l-4 -4`} stroke="var(--ink)" strokeWidth={1.6} fill="none" />
        </g>
      ))}
    </>
  );
}

/** The outcome, a band that changes its pattern when the game is won or lost; the reference's below it. */
export function OutcomeLane({ trial, lane, layout, rem }: LaneProps) {
  const height = lane.height * 0.28;
  const own = lane.top + lane.height * 0.3;
  const other = lane.top + lane.height * 0.65;
  const end = (trial.trace?.frames ?? 0) - 1;
  const stop = trial.trace?.stopped;
  return (
    <>
      <defs>
        <pattern id="won" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v7" stroke="var(--pencil)" strokeWidth="1.6" />
        </pattern>
        <pattern id="lost" width="6" height="6" patternUnits="userSpaceOnUse">
          <circle cx="3" cy="3" r="1.3" fill="var(--pencil)" />
        </pattern>
      </defs>
      <Band history={trial.samples["outcome"] ?? []} end={end} layout={layout} y={own} height={height} rem={rem} dashed={false} />
      <Band history={trial.reference.samples["outcome"] ?? []} end={trial.last_frame} layout={layout} y={other} height={height} rem={rem} dashed />
      {stop ? (
        <g role="img" aria-label={`the script stopped at ${clock(stop.frame)}`}>
          <path d={`M${layout.x(Math.max(stop.frame, 0))} ${layout.axis}V${lane.top + lane.height}`} stroke="var(--madder)" strokeWidth={1.4} />
          <text className="madder" x={layout.x(Math.max(stop.frame, 0)) + 5} y={own + height / 2 + rem * 0.27}>
            the script stopped
          </text>
        </g>
      ) : null}
    </>
  );
}

interface BandProps {
  history: History;
  end: number;
  layout: Layout;
  y: number;
  height: number;
  rem: number;
  dashed: boolean;
}

function Band({ history, end, layout, y, height, rem, dashed }: BandProps) {
  return (
    <>
      {history.map(([frame, value], place) => {
        const until = history[place + 1]?.[0] ?? end;
        const text = show(value);
        const x = layout.x(frame);
        const width = Math.max(layout.x(until) - x, 1);
        return (
          <g key={frame}>
            <rect x={x} y={y} width={width} height={height} fill={text === "playing" ? "none" : `url(#${text})`} stroke={dashed ? "var(--pencil)" : "var(--ink)"} strokeDasharray={dashed ? "5 4" : undefined} />
            {width > rem * 3 ? (
              <text x={x + 6} y={y + height / 2 + rem * 0.27} className={dashed ? "pencil" : ""} stroke="var(--color-base-100)" strokeWidth={4} paintOrder="stroke">
                {dashed && place === 0 ? `reference: ${text}` : text}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
}
