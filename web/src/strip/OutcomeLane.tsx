import { clock, type History, show } from "../values";
import type { Layout } from "./layout";
import type { LaneProps } from "./VariableLane";

/** The outcome, a band that changes its pattern when the game is won or lost; the reference's below it. */
export function OutcomeLane({ trial, lane, layout, rem }: LaneProps) {
  const height = lane.height * (trial.reference ? 0.28 : 0.4);
  const own = lane.top + lane.height * (trial.reference ? 0.3 : 0.45);
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
      <Band
        history={trial.samples["outcome"] ?? []}
        end={end}
        layout={layout}
        y={own}
        height={height}
        rem={rem}
        dashed={false}
      />
      <Band
        history={trial.reference?.samples["outcome"] ?? []}
        end={trial.last_frame}
        layout={layout}
        y={other}
        height={height}
        rem={rem}
        dashed
      />
      {stop ? (
        <g role="img" aria-label={`the script stopped at ${clock(stop.frame, trial.unit)}`}>
          <path
            d={`M${layout.x(Math.max(stop.frame, 0))} ${layout.axis}V${lane.top + lane.height}`}
            stroke="var(--madder)"
            strokeWidth={1.4}
          />
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
      {history.map(([frame, value], index) => {
        const until = history[index + 1]?.[0] ?? end;
        const text = show(value);
        const x = layout.x(frame);
        const width = Math.max(layout.x(until) - x, 1);
        return (
          <g key={frame}>
            <rect
              x={x}
              y={y}
              width={width}
              height={height}
              fill={text === "playing" ? "none" : `url(#${text})`}
              stroke={dashed ? "var(--pencil)" : "var(--ink)"}
              strokeDasharray={dashed ? "5 4" : undefined}
            />
            {width > rem * 3 ? (
              <text
                x={x + 6}
                y={y + height / 2 + rem * 0.27}
                className={dashed ? "pencil" : ""}
                stroke="var(--color-base-100)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                {dashed && index === 0 ? `reference: ${text}` : text}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
}
