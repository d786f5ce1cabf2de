import { Link } from "react-router";

import { lazy, Suspense, useMemo } from "react";

import type { SubmissionView } from "../../api/client";
import { InCode } from "../../shell/InCode";
import { count } from "../../values";

const ScriptView = lazy(() => import("../../script/ScriptView"));

/** A script that cannot be read: every place, in words, beside the text. */
export function Unreadable({ submission }: { submission: SubmissionView }) {
  const lines = useMemo(() => submission.problems.map((problem) => problem.line), [submission.problems]);
  const marks = useMemo(
    () => ({
      running: [],
      suspect: lines,
      idle: [],
      counts: new Map<number, number>(),
      tied: [],
      values: new Map<number, string>(),
    }),
    [lines],
  );
  const fix = submission.findings[0]?.fix;
  return (
    <div className="grid h-full grid-cols-[minmax(0,34rem)_minmax(0,1fr)] grid-rows-[minmax(0,1fr)]">
      <section aria-label="Script" className="min-h-0 border-r border-base-300 px-3 py-2">
        <Suspense fallback={<p className="text-neutral">Fetching the script …</p>}>
          <ScriptView
            text={submission.source}
            marks={marks}
            label={`Script of ${submission.student}`}
            reveal={lines[0] ?? null}
          />
        </Suspense>
      </section>
      <section aria-label="What happened" className="relative overflow-auto px-6 py-4">
        <h2 className="mb-1 text-xl font-bold">This script cannot be read</h2>
        <p className="mb-4 text-neutral">
          Nothing ran, so there are no marks yet. {count(submission.problems.length, "place")} to look at:
        </p>
        <ol>
          {submission.problems.map((problem) => (
            <li
              key={`${problem.line} ${problem.column}`}
              className="mb-3 border-l-[3px] border-error pl-3"
              data-problem={problem.kind}
            >
              <p>
                <strong>Line {problem.line}.</strong> <InCode text={problem.message} />
              </p>
              {problem.instead ? (
                <p className="mt-1">
                  <span className="text-neutral">Instead: </span>
                  {fix ? <code>{problem.instead}</code> : <InCode text={problem.instead} />}
                </p>
              ) : null}
            </li>
          ))}
        </ol>
        {fix ? (
          <p className="text-neutral">
            Tried: with this line changed, the script runs and {count(fix.mends, "check")}{" "}
            {fix.mends === 1 ? "holds" : "hold"}.
          </p>
        ) : null}
        <p className="mt-3">
          <Link
            className="link"
            to={`/rounds/${submission.round_id}/sheets?student=${encodeURIComponent(submission.student)}`}
          >
            Feedback sheet for {submission.student}
          </Link>
        </p>
      </section>
    </div>
  );
}
