import { memo } from "react";

import { clock, show } from "../values";
import type { Pin } from "./layout";
import { MarkShape } from "./Mark";

interface PinsProps {
  pins: readonly Pin[];
  chosen: number | null;
  rem: number;
  width: number;
  onCheck: (check: number, frame: number) => void;
  about: readonly number[];
  onPin: ((check: number | null) => void) | undefined;
}

/** The checks: shape first (dot, cross, ring), colour second. */
export const Pins = memo(function Pins({ pins, chosen, rem, width, onCheck, about, onPin }: PinsProps) {
  return (
    <>
      {pins.map((pin) => (
        <Reach key={pin.check} pin={pin} />
      ))}
      {pins.map((pin) => {
        const open = () => onCheck(pin.check, pin.verdict.frame ?? pin.verdict.span[1]);
        const broken = pin.verdict.verdict === "broken";
        const words = broken || pin.check === chosen;
        const atEnd = pin.x > width - rem * 13;
        return (
          <g
            key={pin.check}
            role="button"
            tabIndex={0}
            aria-label={inWords(pin)}
            aria-pressed={pin.check === chosen}
            data-pin={pin.check}
            className="cursor-pointer"
            onClick={open}
            onMouseEnter={() => onPin?.(pin.check)}
            onMouseLeave={() => onPin?.(null)}
            onFocus={() => onPin?.(pin.check)}
            onBlur={() => onPin?.(null)}
            onKeyDown={(event) => {
              if (event.key !== "Enter" && event.key !== " ") return;
              event.preventDefault();
              event.stopPropagation();
              open();
            }}
          >
            <title>{inWords(pin)}</title>
            <circle cx={pin.x} cy={pin.y} r={9} fill={pin.check === chosen ? "var(--plum-tint)" : "transparent"} stroke={pin.check === chosen || about.includes(pin.check) ? "var(--plum)" : "none"} />
            <MarkShape answer={pin.verdict.verdict} x={pin.x} y={pin.y} />
            {words ? (
              <text
                className={broken ? "madder" : ""}
                x={pin.x + (atEnd ? -12 : 12)}
                y={pin.y + rem * 0.26}
                textAnchor={atEnd ? "end" : "start"}
                stroke="var(--color-base-100)"
                strokeWidth={5}
                paintOrder="stroke"
              >
                {shortened(pin.verdict.expect)}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
});

/** The time that a check is about: its span, or a thread from its head to the line. */
function Reach({ pin }: { pin: Pin }) {
  const ink = pin.verdict.verdict === "broken" ? "var(--madder)" : "var(--pencil)";
  return pin.to > pin.from ? (
    <path d={`M${pin.from} ${pin.y}H${pin.to}M${pin.from} ${pin.y - 3}v6M${pin.to} ${pin.y - 3}v6`} stroke={ink} fill="none" />
  ) : (
    <path d={`M${pin.x} ${pin.y}V${pin.lane.top + pin.lane.height - 6}`} stroke={ink} strokeDasharray="2 3" />
  );
}

function shortened(text: string): string {
  return text.length > 34 ? `${text.slice(0, 33)}…` : text;
}

function inWords({ verdict }: Pin): string {
  const when = {
    at: `at ${clock(verdict.span[0])}`,
    by: `by ${clock(verdict.span[1])}`,
    always: "in every frame",
    never: "in no frame",
    end: "at the end",
    case: "in its own trial",
    after: `after ${verdict.event ?? "its event"}`,
    each: `each time ${verdict.event ?? "its event"} comes`,
    same: "",
    unchanged: "",
  }[verdict.kind];
  const values = Object.entries(verdict.values).map(([name, value]) => `${name} was ${show(value)}`);
  const seen = verdict.verdict === "broken" && values.length ? `; ${values.join(", ")}` : "";
  return `${verdict.verdict}: ${verdict.expect} ${when ?? ""}${seen}`;
}
