import { type SyntheticEvent, useState } from "react";

import type { SubmissionView } from "../../api/client";
import { roundQuery, setOwn, submissionQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { marks } from "../../values";
import { Button } from "../../shell/Button";

/** A teacher's own mark and comment, beside the computed one. */
export function OwnMark({ submission }: { submission: SubmissionView }) {
  const [own, setOwnMarks] = useState(submission.own_marks === null ? "" : String(submission.own_marks));
  const [comment, setComment] = useState(submission.own_comment);
  const keeping = useChange(
    () => setOwn(submission.id, own.trim() === "" ? null : Number(own), comment),
    submissionQuery(submission.id),
    roundQuery(submission.round_id),
  );
  const keep = (event: SyntheticEvent) => {
    event.preventDefault();
    keeping.mutate(undefined);
  };
  const summary = submission.own_marks === null ? "Mark it yourself" : `Your own mark: ${marks(submission.own_marks)}`;
  return (
    <details className="mt-2 border-t border-base-300 pt-1 text-sm" open={submission.own_comment !== "" || undefined}>
      <summary className="cursor-pointer text-neutral">{summary}</summary>
      <form onSubmit={keep} className="flex flex-col gap-1 pt-1">
        <label className="flex items-center gap-2">
          Marks
          <input
            className="input input-sm w-20"
            type="number"
            min={0}
            max={1000}
            step={0.5}
            value={own}
            onChange={(event) => setOwnMarks(event.target.value)}
          />
          <span className="text-neutral">of {marks(submission.out_of)}; empty leaves the computed ones alone</span>
        </label>
        <label className="flex flex-col">
          Comment
          <textarea
            className="textarea textarea-sm w-full"
            rows={2}
            maxLength={2000}
            value={comment}
            onChange={(event) => setComment(event.target.value)}
          />
        </label>
        <span className="flex items-center gap-2">
          <Button type="submit" size="xs">
            Keep
          </Button>
          {keeping.isPending ? <span role="status">Keeping …</span> : null}
          {keeping.isError ? (
            <span role="alert" className="text-error">
              {keeping.error.message}
            </span>
          ) : null}
          {keeping.isSuccess ? <span role="status">Kept.</span> : null}
        </span>
      </form>
    </details>
  );
}
