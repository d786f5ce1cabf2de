import { Link } from "react-router";

import type { Fault, FindingView, SubmissionView, TrialView } from "../../api/client";
import { markOneAgain, roundQuery, submissionQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { InCode } from "../../shell/InCode";
import { clock, count, marks, sentence, show } from "../../values";
import { Parts } from "./Aside";
import { Evidence } from "./Evidence";
import { OwnMark } from "./OwnMark";
import { TryChange } from "./TryChange";
import { LESSON } from "../../words/lesson";
import { useWatched } from "./watched";
import { Withdraw } from "./Withdraw";
import { Button } from "../../shell/Button";

const LEVELS = ["Nudge", "Pointer", "Fix"] as const;

interface HelpProps {
  shown: number;
  onShow: (index: number) => void;
  /** 0 for no help, then one to three steps of it. */
  level: number;
  onLevel: (level: number) => void;
  chosen: number | null;
}

/** What happened, in a few sentences, and three steps of help. */
export function Help({ submission, ...props }: HelpProps & { submission: SubmissionView }) {
  const { trial, findings } = useWatched();
  const { shown, onShow, chosen } = props;
  const finding = findings[shown];
  const check = chosen === null ? undefined : trial.checks[chosen];
  return (
    <div>
      <div className="flex items-center justify-between pb-1 text-sm text-neutral">
        <h2>What happened</h2>
        {findings.length > 1 ? (
          <span>
            <Button
              look="quiet"
              size="xs"
              aria-label="Previous finding"
              disabled={shown === 0}
              onClick={() => onShow(shown - 1)}
            >
              ‹
            </Button>
            {shown + 1} of {findings.length}
            <Button
              look="quiet"
              size="xs"
              aria-label="Next finding"
              disabled={shown === findings.length - 1}
              onClick={() => onShow(shown + 1)}
            >
              ›
            </Button>
          </span>
        ) : null}
      </div>
      {check ? <ChosenCheck check={check} /> : null}
      {submission.fault ? <NotItsFault submission={submission} fault={submission.fault} /> : null}
      {finding ? (
        <Finding {...props} submission={submission} finding={finding} />
      ) : submission.status === "waiting" ? (
        <p>This script waits to be marked. The trial can be watched already.</p>
      ) : submission.fault ? null : (
        <p>Read and run. Nothing to report.</p>
      )}
      <CraftLines submission={submission} />
      <Parts submission={submission} />
      <OwnMark key={submission.id} submission={submission} />
      {submission.reply ? <p className="mt-2">{LESSON.answers(submission.student, submission.reply)}</p> : null}
      <p className="mt-2 text-sm">
        <Link
          className="link"
          to={`/rounds/${submission.round_id}/sheets?student=${encodeURIComponent(submission.student)}`}
        >
          Feedback sheet for {submission.student}
        </Link>
      </p>
      {submission.advice.map((advice) => (
        <p key={advice} className="mt-2 text-sm text-neutral">
          <InCode text={advice} />
        </p>
      ))}
    </div>
  );
}

/** Craft lines that do not hold. */
function CraftLines({ submission }: { submission: SubmissionView }) {
  const lost = submission.craft.filter((line) => line.verdict !== "held" && submission.status !== "unreadable");
  if (lost.length === 0) return null;
  return (
    <ul className="mt-2 border-t border-base-300 pt-2 text-sm" aria-label="Craft">
      {lost.map((line) => (
        <li key={line.expect}>
          Craft: <code>{line.expect}</code>, {marks(line.marks)} of {count(line.out_of, "mark")}.{" "}
          <InCode text={sentence(line.reason ?? "")} /> <span className="text-neutral">{line.because}</span>
        </li>
      ))}
    </ul>
  );
}

/** The script could not be marked, or its mistakes not be looked for: the machine's doing or ours. */
function NotItsFault({ submission, fault }: { submission: SubmissionView; fault: Fault }) {
  const again = useChange(
    () => markOneAgain(submission.id),
    submissionQuery(submission.id),
    roundQuery(submission.round_id),
  );
  return (
    <div role="status" className="mb-2 border-l-[3px] border-primary pl-3" data-fault={fault.whose}>
      <p className="font-bold">
        {submission.status === "unmarked" ? "This script could not be marked" : "The mistakes could not be looked for"}
      </p>
      <p>{fault.message}</p>
      <Button size="xs" className="mt-1" disabled={again.isPending} onClick={() => again.mutate(undefined)}>
        Mark it again
      </Button>
      {again.isError ? (
        <p role="alert" className="text-error">
          {again.error.message}
        </p>
      ) : null}
    </div>
  );
}

/** The check that was chosen on the strip. */
function ChosenCheck({ check }: { check: TrialView["checks"][number] }) {
  const { trial, seek } = useWatched();
  const values = Object.entries(check.values);
  return (
    <div className="mb-2 border-b border-base-300 pb-2" data-check>
      <p>
        <code>{check.expect}</code>{" "}
        <strong className={check.verdict === "broken" ? "text-error" : ""}>{check.verdict}</strong>
        <span className="text-neutral">
          , {marks(check.marks)} of {count(check.out_of, "mark")}
        </span>
      </p>
      <p className="text-sm">
        {check.frame !== null && values.length ? (
          <>
            <button type="button" className="link" onClick={() => seek(check.frame ?? 0)}>
              {clock(check.frame, trial.unit)}
            </button>
            : {values.map(([name, value]) => `${name} was ${show(value)}`).join(", ")}.{" "}
          </>
        ) : null}
        {check.reason ? <InCode text={`${sentence(check.reason)} `} /> : null}
        <span className="text-neutral">{check.because}</span>
      </p>
    </div>
  );
}

function Finding({
  finding,
  level,
  onLevel,
  submission,
  chosen,
}: HelpProps & { finding: FindingView; submission: SubmissionView }) {
  const { scenario } = useWatched();
  return (
    <div data-finding={finding.slip}>
      <h3 className="font-bold">
        <InCode text={finding.title} />
      </h3>
      {finding.checks.some(([number]) => number === scenario) ? null : (
        <Elsewhere submission={submission} finding={finding} />
      )}
      {(chosen !== null ? [] : finding.happened).map((sentence) => (
        <p key={sentence} className="mt-1">
          <InCode text={sentence} />
        </p>
      ))}
      <Evidence finding={finding} />
      <div role="tablist" aria-label="Steps of help" className="mt-2 flex gap-4 border-b border-base-300">
        {LEVELS.map((name, index) => (
          <button
            key={name}
            type="button"
            role="tab"
            id={`help-${name}`}
            aria-selected={level === index + 1}
            aria-controls="help-text"
            className="cursor-pointer pb-1 text-neutral aria-selected:border-b-2 aria-selected:border-primary aria-selected:font-bold aria-selected:text-primary"
            onClick={() => onLevel(level === index + 1 ? 0 : index + 1)}
          >
            {name}
          </button>
        ))}
      </div>
      <div
        id="help-text"
        role="tabpanel"
        aria-labelledby={`help-${LEVELS[Math.max(level - 1, 0)] ?? "Nudge"}`}
        className="min-h-16 pt-2"
      >
        <Level
          finding={finding}
          level={level}
          submissionId={submission.id}
          index={submission.findings.indexOf(finding)}
        />
      </div>
      <p className="text-sm text-neutral">
        {count(finding.marks_lost, "mark")} lost
        {finding.confidence === "open"
          ? "; why is open"
          : finding.confidence === "likely"
            ? "; likely, not certain"
            : ""}
        .{" "}
        {finding.others > 0 ? `${count(finding.others, "other")} in class ${submission.class_name} have the same.` : ""}
      </p>
      <Withdraw submission={submission} finding={finding} />
    </div>
  );
}

/** A finding that was seen in other scenarios, with the way to each. */
function Elsewhere({ submission, finding }: { submission: SubmissionView; finding: FindingView }) {
  const numbers = [...new Set(finding.checks.map(([number]) => number))];
  if (numbers.length === 0) return null;
  return (
    <p className="text-sm text-neutral">
      Not in this scenario; seen in{" "}
      {numbers.map((number, index) => (
        <span key={number}>
          {index > 0 ? ", " : ""}
          <Link className="link" to={`/tries/${submission.id}/scenarios/${number}`}>
            {submission.scenarios[number]?.name ?? `scenario ${number + 1}`}
          </Link>
        </span>
      ))}
      .
    </p>
  );
}

function Level({
  finding,
  level,
  submissionId,
  index,
}: {
  finding: FindingView;
  level: number;
  submissionId: number;
  index: number;
}) {
  if (level === 0) return <p className="text-neutral">Choose how much help to show, or press w.</p>;
  if (level === 1)
    return (
      <p>
        <InCode text={finding.nudge} />
      </p>
    );
  if (level === 2)
    return (
      <p>
        <InCode text={finding.pointer} />
      </p>
    );
  if (!finding.fix)
    return (
      <p>
        <InCode text={finding.note || "There is no tried fix for this."} />
      </p>
    );
  return (
    <>
      <ul>
        {finding.fix.changes.map((line) => (
          <li key={line.line} className="mono mb-1 border border-base-300 px-2">
            <span className="sr-only">Line {line.line}, before: </span>
            <span className="struck block">{line.before}</span>
            <span className="sr-only">after: </span>
            <span className="inked block">{line.after}</span>
          </li>
        ))}
      </ul>
      <p className="text-sm text-neutral">
        Tried on all scenarios: mends {count(finding.fix.mends, "check")}, breaks{" "}
        {finding.fix.breaks === 0 ? "none" : finding.fix.breaks}. <InCode text={finding.note} />
      </p>
      <TryChange key={`${submissionId} ${index}`} submissionId={submissionId} index={index} />
    </>
  );
}
