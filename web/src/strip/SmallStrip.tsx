import type { SmallStripView } from "../api/client";
import { MarkShape } from "./Mark";

interface SmallStripProps {
  strip: SmallStripView;
  width?: number;
  height?: number;
  /** What it shows, in words; nothing where the words stand beside it. */
  label: string;
  pins?: boolean;
}

const EDGE = 6;

/** A strip without labels: one stepped line, and the pins on it. */
export function SmallStrip({ strip, width = 104, height = 30, label, pins = true }: SmallStripProps) {
  const x = (frame: number) => EDGE + (Math.min(frame, strip.last) / Math.max(strip.last, 1)) * (width - 2 * EDGE);
  const heights = strip.line.map(([, value]) => value);
  const low = Math.min(...heights);
  const high = Math.max(...heights);
  const y = (value: number) =>
    high === low ? height / 2 : height - EDGE - ((value - low) / (high - low)) * (height - 2 * EDGE);
  const at = (frame: number) => y(strip.line.findLast(([since]) => since <= frame)?.[1] ?? low);
  const line = strip.line.map(([frame, value], index) => `${index ? `H${x(frame)}V` : `M${x(frame)} `}${y(value)}`);
  return (
    <svg
      width={width}
      height={height}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
      className="shrink-0"
      data-small={strip.name}
    >
      <path d={`M${EDGE} ${height - 1}H${width - EDGE}`} stroke="var(--line)" />
      {line.length ? (
        <path d={`${line.join("")}H${x(strip.last)}`} stroke="var(--ink)" strokeWidth={1.5} fill="none" />
      ) : null}
      {pins
        ? strip.pins.map(([frame, answer], index) => (
            <MarkShape key={index} answer={answer} x={x(frame)} y={line.length ? at(frame) : height / 2} />
          ))
        : null}
    </svg>
  );
}
