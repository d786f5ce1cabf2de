import type { FindingView, SubmissionView } from "../../api/client";
import { roundQuery, setWithdrawn, submissionQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";

/** Withdraws a finding for this student, or puts it back. */
export function Withdraw({ submission, finding }: { submission: SubmissionView; finding: FindingView }) {
  const whose = finding.withdrawn === "group" ? null : submission.id;
  const withdrawing = useChange(
    (withdrawn: boolean) => setWithdrawn(submission.round_id, finding.key, whose, withdrawn),
    submissionQuery(submission.id),
    roundQuery(submission.round_id),
  );
  const taken = finding.withdrawn !== "";
  return (
    <p className="text-sm text-neutral" data-withdrawn={finding.withdrawn}>
      {finding.withdrawn === "group"
        ? "Withdrawn for everybody. "
        : finding.withdrawn === "student"
          ? `Withdrawn for ${submission.student}. `
          : ""}
      <button
        type="button"
        className="link"
        disabled={withdrawing.isPending}
        onClick={() => withdrawing.mutate(!taken)}
      >
        {taken ? "Put this finding back" : `Withdraw this finding for ${submission.student}`}
      </button>
      {withdrawing.isError ? (
        <span role="alert" className="text-error">
          {" "}
          {withdrawing.error.message}
        </span>
      ) : null}
    </p>
  );
}
