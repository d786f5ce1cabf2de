import { useMutation, useQueryClient } from "@tanstack/react-query";

import type { FindingView, SubmissionView } from "../../api/client";
import { roundQuery, setWithdrawn, submissionQuery } from "../../api/queries";

/** Withdraws a finding for this student, or puts it back. */
export function Withdraw({ submission, finding }: { submission: SubmissionView; finding: FindingView }) {
  const queries = useQueryClient();
  const withdrawing = useMutation({
    mutationFn: (withdrawn: boolean) => setWithdrawn(submission.round_id, finding.key, finding.withdrawn === "group" ? null : submission.id, withdrawn),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: submissionQuery(submission.id).queryKey }),
        queries.invalidateQueries({ queryKey: roundQuery(submission.round_id).queryKey }),
      ]),
  });
  const taken = finding.withdrawn !== "";
  return (
    <p className="text-sm text-neutral" data-withdrawn={finding.withdrawn}>
      {finding.withdrawn === "group" ? "Withdrawn for everybody. " : finding.withdrawn === "student" ? `Withdrawn for ${submission.student}. ` : ""}
      <button type="button" className="link" disabled={withdrawing.isPending} onClick={() => withdrawing.mutate(!taken)}>
        {taken ? "Put this finding back" : `Withdraw this finding for ${submission.student}`}
      </button>
      {withdrawing.isError ? <span role="alert" className="text-error"> {withdrawing.error.message}</span> : null}
    </p>
  );
}
