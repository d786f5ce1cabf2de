import { Link, useNavigate } from "react-router";

import type { SubmissionView } from "../../api/client";
import { inWords } from "../../strip/Mark";
import { marks } from "../../values";

/** Where the trial belongs; the scenario can be changed here. */
export function Path({
  submission,
  scenario,
  trial,
  earlier,
}: {
  submission: SubmissionView;
  scenario: number;
  trial: number | "shortest";
  earlier: boolean;
}) {
  const trials = submission.scenarios[scenario]?.trials ?? [];
  const shortest = submission.shortest[scenario];
  const navigate = useNavigate();
  return (
    <span className="flex items-center gap-2">
      <Link to={`/rounds/${submission.round_id}`} className="link-hover">
        {submission.title}
      </Link>
      /<strong className="text-base-content">{submission.student}</strong>
      {submission.number > 1 ? <span>try {submission.number}</span> : null}/
      <select
        className="select select-sm w-auto min-w-44 border-base-300 bg-transparent font-semibold text-base-content"
        aria-label="Scenario"
        value={scenario}
        onChange={(event) => void navigate(`/tries/${submission.id}/scenarios/${event.target.value}`)}
      >
        {submission.scenarios.map((each, number) => (
          <option key={each.name} value={number}>
            {each.name} ({inWords(submission.verdicts[number] ?? [])})
          </option>
        ))}
      </select>
      {submission.scenarios[scenario]?.visible === false ? <span className="text-sm italic">hidden</span> : null}
      {trials.length > 1 ? (
        <select
          className="select select-sm w-auto max-w-56 border-base-300 bg-transparent text-base-content"
          aria-label="Trial"
          value={trial}
          onChange={(event) =>
            void navigate(`/tries/${submission.id}/scenarios/${scenario}?trial=${event.target.value}`)
          }
        >
          {shortest ? <option value="shortest">the shortest that breaks a check</option> : null}
          {trials.map((label, number) => (
            <option key={label} value={number}>
              {label}
            </option>
          ))}
        </select>
      ) : null}
      {submission.earlier ? (
        <select
          className="select select-sm w-auto border-base-300 bg-transparent text-base-content"
          aria-label="In pencil beside it"
          value={earlier ? "earlier" : "reference"}
          onChange={(event) =>
            void navigate(`/tries/${submission.id}/scenarios/${scenario}?trial=${trial}&beside=${event.target.value}`)
          }
        >
          <option value="reference">in pencil: the reference</option>
          <option value="earlier">in pencil: try {submission.earlier.number}</option>
        </select>
      ) : null}
    </span>
  );
}

/** The neighbours in the round, and the marks. */
export function Standing({ submission, scenario }: { submission: SubmissionView; scenario: number }) {
  return (
    <>
      {submission.previous ? (
        <Link to={`/tries/${submission.previous.submission_id}/scenarios/${scenario}`} className="link-hover">
          <span className="text-neutral">previous</span> {submission.previous.student}
        </Link>
      ) : null}
      {submission.next ? (
        <Link to={`/tries/${submission.next.submission_id}/scenarios/${scenario}`} className="link-hover">
          <span className="text-neutral">next</span> {submission.next.student}
        </Link>
      ) : null}
      <span>
        <strong className="text-xl">
          {submission.marks === null ? (submission.status === "unmarked" ? "?" : "…") : marks(submission.marks)}
        </strong>
        <span className="text-neutral"> of {marks(submission.out_of)}</span>
      </span>
    </>
  );
}
