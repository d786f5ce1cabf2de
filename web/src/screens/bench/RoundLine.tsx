import { Link } from "react-router";

import type { RoundSummary } from "../../api/client";
import { count, marks } from "../../values";

/** A round in one line: how far it is marked, and how its marks are spread. */
export function RoundLine({ round }: { round: RoundSummary }) {
  const waiting = round.scripts - round.marked;
  return (
    <li className="border-t border-base-300 last:border-b">
      <Link
        to={`/rounds/${round.id}`}
        className="grid grid-cols-[1fr_16rem_12rem] items-center gap-6 py-4 hover:bg-base-200"
      >
        <span>
          <span className="block text-lg font-semibold">{round.title}</span>
          <span className="text-neutral">
            class {round.class_name}, {count(round.scripts, "script")},{" "}
            {new Date(round.opened_at).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}
          </span>
        </span>
        <Spread spread={round.spread} outOf={round.out_of} />
        <span className="text-right">
          {waiting > 0 ? (
            <span role="status">{`${round.marked} of ${round.scripts} marked`}</span>
          ) : (
            <>
              <span className="text-lg font-semibold">
                {round.mean === null ? "–" : marks(Math.round(round.mean * 10) / 10)}
              </span>
              <span className="text-neutral"> of {marks(round.out_of)} on average</span>
            </>
          )}
        </span>
      </Link>
    </li>
  );
}

/** The marks of a class as one stepped line, lowest to highest. */
export function Spread({ spread, outOf }: { spread: readonly number[]; outOf: number }) {
  const width = 240;
  const height = 36;
  const step = width / Math.max(spread.length, 1);
  const y = (value: number) => height - 2 - (value / Math.max(outOf, 1)) * (height - 4);
  const path = spread.map((value, index) => `${index ? "V" : "M0 "}${y(value)}H${(index + 1) * step}`).join("");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Marks from ${spread[0] ?? 0} to ${spread[spread.length - 1] ?? 0}`}
    >
      <path d={`M0 ${y(outOf)}H${width}`} stroke="var(--line)" strokeDasharray="3 3" />
      <path d={path} stroke="var(--ink)" strokeWidth={1.6} fill="none" />
    </svg>
  );
}
