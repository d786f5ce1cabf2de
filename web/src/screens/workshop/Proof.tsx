import { useQuery } from "@tanstack/react-query";

import type { ProofView } from "../../api/client";
import { proofQuery } from "../../api/queries";
import { count, marks, shorten } from "../../values";
import { PROOF } from "../../words/workshop";
import { Word } from "./Fields";
import type { Settings } from "./rows";
import { freeTitle, rowsOf, text } from "./rows";
import type { Hands } from "./useDraft";

interface ProofProps {
  id: number;
  at: number;
  playable: boolean;
  settings: Settings | null;
  hands: Hands;
}

/** Would a mistake be seen? How many planted slips are caught, and a scenario for each that gets through. */
export function Proof({ id, at, playable, settings, hands }: ProofProps) {
  const proof = useQuery({ ...proofQuery(id, at), enabled: playable });
  const found = proof.data;
  return (
    <section aria-label="Proof" className="border-t border-base-300 pt-2" data-proof={found?.state ?? "none"}>
      <div className="flex items-baseline justify-between text-sm text-neutral">
        <h2>Proof: would a mistake be seen?</h2>
        <span role="status">{playable ? progress(found) : "once it can be played"}</span>
      </div>
      {found && found.tried > 0 ? (
        <p className="text-lg">
          <strong>{found.caught}</strong> of {found.tried - found.same} planted slips{" "}
          {found.caught === 1 ? "is" : "are"} caught
        </p>
      ) : null}
      <ul className="text-sm">
        {found?.through.slice(0, 8).map((each) => (
          <li key={each.number} className="border-t border-base-300 py-1" data-through={each.slip}>
            Line {each.line}, <code>{shorten(each.before.trim(), 30)}</code> as{" "}
            <code>{shorten(each.after.trim() || "nothing", 30)}</code> gets through.{" "}
            <Word
              onClick={() => {
                const name = freeTitle(rowsOf(settings, "scenario"), text(each.row, "name"));
                void hands.change({ do: "add", table: "scenario", row: rowOf(each.row, name) });
              }}
            >
              add the scenario that catches it
            </Word>
          </li>
        ))}
      </ul>
      {found && found.companions > 0 ? (
        <div className="border-t border-base-300 py-1 text-sm" data-companions>
          <p>{PROOF.companions(found.companions - found.astray.length, found.companions)}</p>
          {found.astray.map((each) => (
            <p key={each} className="text-error">
              {each}
            </p>
          ))}
        </div>
      ) : null}
      {found?.state === "done" && found.out_of > 0 ? <Standing found={found} /> : null}
    </section>
  );
}

/** A scenario as it is written into the exercise: without what is empty. */
function rowOf(row: Readonly<Record<string, unknown>>, name: string): Record<string, unknown> {
  const kept = Object.entries(row).filter(
    ([, value]) => value !== null && !(Array.isArray(value) && value.length === 0),
  );
  return { ...Object.fromEntries(kept), name };
}

function progress(found: ProofView | undefined): string {
  if (!found || found.state === "waiting") return "begins …";
  if (found.state === "not playable") return "cannot be played";
  if (found.state === "done") return "complete";
  return `${found.tried} of ${found.planted} tried`;
}

function Standing({ found }: { found: ProofView }) {
  return (
    <div className="border-t border-base-300 py-1 text-sm text-neutral">
      <p>
        The starter earns {marks(found.starter)} of {marks(found.out_of)}, an empty script {marks(found.empty)}.
        {found.same ? ` ${count(found.same, "planted slip acts", "planted slips act")} like the reference.` : ""}
      </p>
      {found.warnings.map((each) => (
        <p key={each}>{each}</p>
      ))}
    </div>
  );
}
