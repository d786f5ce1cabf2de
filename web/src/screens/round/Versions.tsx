import { Link } from "react-router";

import type { RoundView } from "../../api/client";
import { renewRound, roundQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { InCode } from "../../shell/InCode";
import { marks } from "../../values";
import { Button } from "../../shell/Button";

/** That there is a newer version of the exercise, and whose marks it changed. */
export function Versions({ round }: { round: RoundView }) {
  const renewing = useChange(() => renewRound(round.id), roundQuery(round.id));
  if (round.newest === round.version_number && round.changed.length === 0) return null;
  return (
    <section aria-label="Versions of the exercise" className="border-b border-base-300 py-2">
      {round.newest > round.version_number ? (
        <p className="flex items-center gap-3">
          This round is marked with version {round.version_number}; there is version {round.newest}.
          <Button size="xs" disabled={renewing.isPending} onClick={() => renewing.mutate(undefined)}>
            Mark with version {round.newest}
          </Button>
        </p>
      ) : null}
      {renewing.isError ? (
        <p role="alert" className="text-error">
          {renewing.error.message}
        </p>
      ) : null}
      {round.changed.length > 0 ? (
        <details open>
          <summary className="cursor-pointer font-semibold">
            Version {round.version_number} changed marks: {round.changed.length}
          </summary>
          <ul>
            {round.changed.map((each) => (
              <li key={each.submission_id} className="grid grid-cols-[8rem_6rem_1fr] gap-3 text-sm">
                <Link to={`/tries/${each.submission_id}/scenarios/0`} className="link">
                  {each.student}
                </Link>
                <span>
                  {marks(each.before)}, now <strong>{marks(each.after)}</strong>
                </span>
                <span className="text-neutral">
                  <InCode text={each.why.join(" ")} />
                </span>
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </section>
  );
}
