import { type KeyboardEvent, memo } from "react";

import { clock, shorten, show, type Unit } from "../values";
import type { Pin } from "./layout";
import { MarkShape } from "./Mark";
import type { StripHands } from "./Strip";

interface PinsProps {
  pins: readonly Pin[];
  chosen: number | null;
  rem: number;
  width: number;
  about: readonly number[];
  unit: Unit;
  hands: StripHands | undefined;
}

/** The checks: shape first (dot, cross, ring), colour second. */
export const Pins = memo(function Pins({ pins, chosen, rem, width, about, unit, hands }: PinsProps) {
  return (
    <>
      {pins.map((pin) => (
        <Reach key={pin.check} pin={pin} />
      ))}
      {pins.map((pin) => {
        const open = () => hands?.onCheck(pin.check, pin.verdict.frame ?? pin.verdict.span[1]);
        const broken = pin.verdict.verdict === "broken";
        const words = broken || pin.check === chosen;
        const atEnd = pin.x > width - rem * 13;
        const button = {
          role: "button",
          tabIndex: 0,
          "aria-pressed": pin.check === chosen,
          className: "cursor-pointer",
          onClick: open,
          onMouseEnter: () => hands?.onPin(pin.check),
          onMouseLeave: () => hands?.onPin(null),
          onFocus: () => hands?.onPin(pin.check),
          onBlur: () => hands?.onPin(null),
          onKeyDown: (event: KeyboardEvent) => {
            if (event.key !== "Enter" && event.key !== " ") return;
            event.preventDefault();
            event.stopPropagation();
            open();
          },
        };
        return (
          <g key={pin.check} data-pin={pin.check} {...(hands ? button : { role: "img" })}>
            {/* its name; an aria-label would have to hold the words beside it as they are cut off */}
            <title>{inWords(pin, unit)}</title>
            <circle cx={pin.x} cy={pin.y} r={12} fill="transparent" />
            <circle
              cx={pin.x}
              cy={pin.y}
              r={9}
              fill={pin.check === chosen ? "var(--plum-tint)" : "transparent"}
              stroke={pin.check === chosen || about.includes(pin.check) ? "var(--plum)" : "none"}
            />
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
                aria-hidden
              >
                {shorten(pin.verdict.expect, 34)}
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
    <path
      d={`M${pin.from} ${pin.y}H${pin.to}M${pin.from} ${pin.y - 3}v6M${pin.to} ${pin.y - 3}v6`}
      stroke={ink}
      fill="none"
    />
  ) : (
    <path d={`M${pin.x} ${pin.y}V${pin.lane.top + pin.lane.height - 6}`} stroke={ink} strokeDasharray="2 3" />
  );
}

function inWords({ verdict }: Pin, unit: Unit): string {
  const when = {
    at: `at ${clock(verdict.span[0], unit)}`,
    by: `by ${clock(verdict.span[1], unit)}`,
    always: "all the time",
    never: "at no time",
    end: "at the end",
    case: "in its own trial",
    after: `after ${verdict.event?.text ?? "its event"}`,
    each: `each time ${verdict.event?.text ?? "its event"} comes`,
    apart: "whenever it comes",
    same: "as in the reference all the time",
    unchanged: `from ${clock(verdict.span[0], unit)} on`,
  }[verdict.kind];
  const values = Object.entries(verdict.values).map(([name, value]) => `${name} was ${show(value)}`);
  const seen = verdict.verdict === "broken" && values.length ? `; ${values.join(", ")}` : "";
  return `${verdict.verdict}: ${verdict.expect} ${when}${seen}`;
}
