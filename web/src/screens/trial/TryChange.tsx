import { useMutation } from "@tanstack/react-query";

import type { TriedChange } from "../../api/client";
import { tryChange } from "../../api/queries";
import { count, marks } from "../../values";
import { Button } from "../../shell/Button";

/** Marks the script again with the fix in it, and shows what that turns. Nothing is kept. */
export function TryChange({ submissionId, index }: { submissionId: number; index: number }) {
  const trying = useMutation({ mutationFn: () => tryChange(submissionId, index) });
  return (
    <div className="mt-1 text-sm" data-tried={trying.data ? trying.data.marks : undefined}>
      <Button size="xs" disabled={trying.isPending} onClick={() => trying.mutate()}>
        Try this change
      </Button>
      {trying.isPending ? <span role="status"> Marking …</span> : null}
      {trying.isError ? (
        <p role="alert" className="text-error">
          {trying.error.message}
        </p>
      ) : null}
      {trying.data ? <Difference tried={trying.data} /> : null}
    </div>
  );
}

function Difference({ tried }: { tried: TriedChange }) {
  const gained = tried.marks - tried.marks_before;
  return (
    <div role="status" className="mt-1 border-l-[3px] border-primary pl-2">
      <p>
        <strong>{marks(tried.marks)}</strong> of {marks(tried.out_of)} instead of {marks(tried.marks_before)}
        {gained > 0 ? `, ${count(gained, "mark")} more` : ""}.
      </p>
      <ul>
        {tried.checks.map((check) => (
          <li key={`${check.scenario} ${check.expect}`}>
            {check.scenario}: <code>{check.expect}</code> <span className="struck">{check.before}</span>{" "}
            <span className="inked">{check.after}</span>
          </li>
        ))}
      </ul>
      {tried.checks.length === 0 ? <p>No check turns.</p> : null}
    </div>
  );
}
