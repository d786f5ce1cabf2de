import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { FeedbackSheet, HandedInFinding, TrialView } from "../api/client";
import { sheetTrialQuery } from "../api/lesson";
import { InCode } from "../shell/InCode";
import { Mark } from "../strip/Mark";
import { Strip } from "../strip/Strip";
import { shown } from "../strip/steps";
import { clock, count, marks, show, valueAt } from "../values";
import { linesIn } from "../watching/lines";
import { valuesAt } from "../watching/tie";
import { LESSON } from "../words/lesson";

interface FeedbackProps {
  sheet: FeedbackSheet;
  /** Whether the student reads it, and not the teacher who prints it. */
  student: boolean;
  /** What stands below: the answer, or nothing. */
  children?: ReactNode;
}

const MOST = 3; // findings with a strip of their own: more do not fit on a page

/** A page a student learns from: the lines with the moment's values, that part of the strip, the question. */
export function Feedback({ sheet, student, children }: FeedbackProps) {
  const counts = sheet.own_marks ?? sheet.marks;
  return (
    <article className="mx-auto max-w-4xl px-6 py-6 break-after-page print:px-0 print:py-0" data-feedback={sheet.id}>
      <header className="mb-3 flex flex-wrap items-baseline gap-x-6 border-b border-base-300 pb-2">
        <h2 className="text-2xl font-bold">
          {sheet.student}: {sheet.title}
        </h2>
        {counts === null ? null : <strong className="text-xl">{LESSON.marksOf(counts, sheet.out_of)}</strong>}
        <span className="text-neutral">
          {LESSON.tryOf(sheet.number, sheet.handed_in_at)}
          {sheet.late ? `, ${LESSON.late}` : ""}
          {sheet.with_name ? `, ${LESSON.together(sheet.with_name)}` : ""}
        </span>
      </header>
      {sheet.comment ? (
        <section className="mb-4">
          <h3 className="font-bold">{LESSON.fromTeacher}</h3>
          <p className="whitespace-pre-line">{sheet.comment}</p>
        </section>
      ) : null}
      {sheet.given_back ? (
        <>
          <h3 className="text-lg font-bold">{LESSON.lookAtThis}</h3>
          {sheet.findings.length > 0 ? (
            sheet.findings.map((finding, index) => (
              <Finding key={index} finding={finding} sheet={sheet} student={student} drawn={index < MOST} />
            ))
          ) : (
            <p>
              {sheet.unmarked
                ? LESSON.cannotMark(sheet.unmarked)
                : sheet.marks === null
                  ? LESSON.waits
                  : LESSON.nothingToSay}
            </p>
          )}
          {sheet.advice.map((each) => (
            <p key={each} className="mt-2 text-neutral">
              <InCode text={each} />
            </p>
          ))}
          <Earned sheet={sheet} />
        </>
      ) : (
        <>
          <p>{LESSON.notGiven}</p>
          {sheet.scenarios.length > 0 ? (
            <>
              <h3 className="mt-3 font-bold">{LESSON.hiddenGave}</h3>
              <Scenarios sheet={sheet} />
            </>
          ) : null}
        </>
      )}
      {children}
    </article>
  );
}

interface FindingProps {
  finding: HandedInFinding;
  sheet: FeedbackSheet;
  student: boolean;
  drawn: boolean;
}

function Finding({ finding, sheet, student, drawn }: FindingProps) {
  const trial = useQuery({
    ...sheetTrialQuery(sheet.id, finding.scenario ?? 0, student),
    enabled: drawn && finding.scenario !== null,
  }).data;
  return (
    <section className="border-b border-base-300 py-3 break-inside-avoid">
      {finding.title ? (
        <p className="font-semibold">
          <InCode text={finding.title} />
        </p>
      ) : null}
      {finding.happened.map((sentence) => (
        <p key={sentence}>
          <InCode text={sentence} />
        </p>
      ))}
      {trial ? <Moment trial={trial} frame={finding.frame} /> : null}
      {finding.lines.length > 0 ? (
        <Lines finding={finding} trial={trial ?? null} />
      ) : trial ? (
        <Ran trial={trial} frame={finding.frame} source={sheet.source} />
      ) : null}
      <p className="mt-1 text-lg">
        <InCode text={finding.nudge} />
      </p>
      {finding.pointer ? (
        <p>
          <InCode text={finding.pointer} />
        </p>
      ) : null}
      {finding.fix?.map((line) => (
        <p key={line.line} className="mono mt-1 border border-base-300 px-2">
          <span className="sr-only">Line {line.line}, before: </span>
          <span className="struck block">{line.before}</span>
          <span className="sr-only">after: </span>
          <span className="inked block">{line.after}</span>
        </p>
      ))}
      <p className="text-sm text-neutral">
        {LESSON.lostIn(finding.marks_lost, finding.scenarios.join(", "))}
        {finding.certain ? "" : `. ${LESSON.likely}`}
      </p>
    </section>
  );
}

/** The strip of the run with the cursor at the moment, and what everything was there. */
function Moment({ trial, frame }: { trial: TrialView; frame: number | null }) {
  const seen = shown(trial);
  if (!seen.trace) return null;
  const at = seen.unit === "frame" ? Math.max(frame ?? 0, 0) : seen.last_frame;
  return (
    <figure className="my-2 overflow-hidden border border-base-300">
      <Strip trial={seen} frame={at} />
      <figcaption className="px-3 pb-1 text-sm text-neutral">
        {trial.scenario}, {clock(at, seen.unit)}:{" "}
        {seen.variables.map(({ name }) => `${name} ${show(valueAt(seen.samples[name], at))}`).join(", ")}
      </figcaption>
    </figure>
  );
}

const MOST_LINES = 8; // that ran in one frame: what more there is, the run shows at the desk

/** The lines that ran in the moment, with what their tests saw. */
function Ran({ trial, frame, source }: { trial: TrialView; frame: number | null; source: string }) {
  if (!trial.trace || trial.straight || frame === null) return null;
  const ran = linesIn(trial.trace, frame);
  if (ran.length === 0 || ran.length > MOST_LINES) return null;
  const values = valuesAt(trial.trace, ran, frame, show);
  const text = source.split("\n");
  return (
    <ol className="mono my-2 border-l-2 border-base-300 pl-2" aria-label={LESSON.ranThen}>
      {ran.map((line) => (
        <li key={line} className="grid grid-cols-[2.5rem_1fr]">
          <span className="text-neutral select-none">{line}</span>
          <span className="whitespace-pre-wrap">
            {text[line - 1]}
            {values.has(line) ? <span className="pl-4 text-error">{values.get(line)}</span> : null}
          </span>
        </li>
      ))}
    </ol>
  );
}

function Lines({ finding, trial }: { finding: HandedInFinding; trial: TrialView | null }) {
  const about = finding.lines.filter((line) => line.about).map((line) => line.number);
  const values = trial?.trace
    ? valuesAt(trial.trace, about, finding.frame ?? Infinity, show)
    : new Map<number, string>();
  return (
    <ol className="mono my-2 border-l-2 border-base-300 pl-2">
      {finding.lines.map((line) => (
        <li
          key={line.number}
          className={`grid grid-cols-[2.5rem_1fr] ${line.about ? "bg-(--madder-tint) font-semibold" : "text-neutral"}`}
        >
          <span className="select-none">{line.number}</span>
          <span className="whitespace-pre-wrap">
            {line.text}
            {values.has(line.number) ? <span className="pl-4 text-error">{values.get(line.number)}</span> : null}
          </span>
        </li>
      ))}
    </ol>
  );
}

function Earned({ sheet }: { sheet: FeedbackSheet }) {
  const parts = [...Object.entries(sheet.by_concept), ...Object.entries(sheet.by_task)];
  if (sheet.scenarios.length === 0) return null;
  return (
    <section className="mt-4 break-inside-avoid">
      <h3 className="text-lg font-bold">{LESSON.yourMarks}</h3>
      {parts.length > 0 ? (
        <p className="flex flex-wrap gap-x-5 text-neutral">
          {parts.map(([name, part]) => (
            <span key={name}>
              {name}{" "}
              <strong className="text-base-content">
                {marks(part.marks)} of {marks(part.out_of)}
              </strong>
            </span>
          ))}
        </p>
      ) : null}
      <Scenarios sheet={sheet} />
    </section>
  );
}

function Scenarios({ sheet }: { sheet: FeedbackSheet }) {
  return (
    <ul>
      {sheet.scenarios.map((each, index) => (
        <li key={index} className="border-t border-base-300 py-1">
          <span className="flex justify-between">
            <span>{each.name}</span>
            <span>
              {marks(each.marks)} <span className="text-neutral">of {count(each.out_of, "mark")}</span>
            </span>
          </span>
          {each.checks
            .filter((check) => check.because)
            .map((check, place) => (
              <span key={place} className="flex items-baseline gap-2 text-sm">
                <Mark answer={check.verdict} /> {check.because}
              </span>
            ))}
        </li>
      ))}
    </ul>
  );
}
