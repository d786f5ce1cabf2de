import { Link, useNavigate } from "react-router";

import type { TryView } from "../../api/client";
import { inWords } from "../../strip/Mark";
import { marks } from "../../values";

/** Where the trial belongs; the scenario can be changed here. */
export function Path({ attempt, scenario, trial, earlier }: { attempt: TryView; scenario: number; trial: number | "shortest"; earlier: boolean }) {
  const trials = attempt.scenarios[scenario]?.trials ?? [];
  const shortest = attempt.shortest[scenario];
  const navigate = useNavigate();
  return (
    <span className="flex items-center gap-2">
      <Link to={`/rounds/${attempt.round_id}`} className="link-hover">
        {attempt.title}
      </Link>
      /<strong className="text-base-content">{attempt.student}</strong>
      {attempt.number > 1 ? <span>try {attempt.number}</span> : null}/
      <select
        className="select select-sm w-auto min-w-44 border-base-300 bg-transparent font-semibold text-base-content"
        aria-label="Scenario"
        value={scenario}
        onChange={(event) => void navigate(`/tries/${attempt.id}/scenarios/${event.target.value}`)}
      >
        {attempt.scenarios.map((each, number) => (
          <option key={each.name} value={number}>
            {each.name} ({inWords(attempt.verdicts[number] ?? [])})
          </option>
        ))}
      </select>
      {attempt.scenarios[scenario]?.visible === false ? <span className="text-sm italic">hidden</span> : null}
      {trials.length > 1 ? (
        <select
          className="select select-sm w-auto max-w-56 border-base-300 bg-transparent text-base-content"
          aria-label="Trial"
          value={trial}
          onChange={(event) => void navigate(`/tries/${attempt.id}/scenarios/${scenario}?trial=${event.target.value}`)}
        >
          {shortest ? <option value="shortest">the shortest that breaks a check</option> : null}
          {trials.map((label, number) => (
            <option key={label} value={number}>
              {label}
            </option>
          ))}
        </select>
      ) : null}
      {attempt.earlier ? (
        <select
          className="select select-sm w-auto border-base-300 bg-transparent text-base-content"
          aria-label="In pencil beside it"
          value={earlier ? "earlier" : "reference"}
          onChange={(event) => void navigate(`/tries/${attempt.id}/scenarios/${scenario}?trial=${trial}&beside=${event.target.value}`)}
        >
          <option value="reference">in pencil: the reference</option>
          <option value="earlier">in pencil: try {attempt.earlier.number}</option>
        </select>
      ) : null}
    </span>
  );
}

/** The neighbours in the round, and the marks. */
export function Standing({ attempt, scenario }: { attempt: TryView; scenario: number }) {
  return (
    <>
      {attempt.previous ? (
        <Link to={`/tries/${attempt.previous.try_id}/scenarios/${scenario}`} className="link-hover">
          <span className="text-neutral">previous</span> {attempt.previous.student}
        </Link>
      ) : null}
      {attempt.next ? (
        <Link to={`/tries/${attempt.next.try_id}/scenarios/${scenario}`} className="link-hover">
          <span className="text-neutral">next</span> {attempt.next.student}
        </Link>
      ) : null}
      <span>
        <strong className="text-xl">{attempt.marks === null ? "…" : marks(attempt.marks)}</strong>
        <span className="text-neutral"> of {marks(attempt.out_of)}</span>
      </span>
    </>
  );
}
