import { useMutation, useQueryClient } from "@tanstack/react-query";

import type { FindingView, TryView } from "../../api/client";
import { roundQuery, setWithdrawn, tryQuery } from "../../api/queries";

/** Withdraws a finding for this student, or puts it back. */
export function Withdraw({ attempt, finding }: { attempt: TryView; finding: FindingView }) {
  const queries = useQueryClient();
  const withdrawing = useMutation({
    mutationFn: (withdrawn: boolean) => setWithdrawn(attempt.round_id, finding.key, finding.withdrawn === "group" ? null : attempt.id, withdrawn),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: tryQuery(attempt.id).queryKey }),
        queries.invalidateQueries({ queryKey: roundQuery(attempt.round_id).queryKey }),
      ]),
  });
  const taken = finding.withdrawn !== "";
  return (
    <p className="text-sm text-neutral" data-withdrawn={finding.withdrawn}>
      {finding.withdrawn === "group" ? "Withdrawn for everybody. " : finding.withdrawn === "student" ? `Withdrawn for ${attempt.student}. ` : ""}
      <button type="button" className="link" disabled={withdrawing.isPending} onClick={() => withdrawing.mutate(!taken)}>
        {taken ? "Put this finding back" : `Withdraw this finding for ${attempt.student}`}
      </button>
      {withdrawing.isError ? <span role="alert" className="text-error"> {withdrawing.error.message}</span> : null}
    </p>
  );
}
