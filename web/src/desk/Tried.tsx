import type { CheckedTry } from "../api/client";
import { SmallStrip } from "../strip/SmallStrip";
import { marks } from "../values";
import { DESK } from "../words/desk";

const MOST = 6; // tries in a row; the older ones can be got back by name

/** The tries so far as a row of small strips, each with what it earned in the scenarios that can be seen. */
export function Tried({ tries }: { tries: readonly CheckedTry[] }) {
  const last = tries.at(-1);
  return (
    <div
      className="flex flex-wrap items-center gap-x-4 border-t border-base-300 py-1 text-sm"
      data-tried={tries.length}
    >
      <h3 className="text-neutral">{DESK.yourTries}</h3>
      {tries.length === 0 ? <span className="text-neutral">{DESK.noTries}</span> : null}
      {tries.slice(-MOST).map((each) => (
        <span key={each.id} className="flex items-center gap-1">
          {each.small ? <SmallStrip strip={each.small} width={64} height={20} pins={false} label="" /> : null}
          <span className={each === last ? "text-base font-bold" : "text-neutral"}>
            <span className="sr-only">{DESK.tryNumber(each.number)}: </span>
            {each.marks === null ? "…" : marks(each.marks)}
          </span>
        </span>
      ))}
      {last && last.marks !== null ? <span className="text-neutral">{DESK.soFar(last.marks, last.out_of)}</span> : null}
    </div>
  );
}
