import { useState } from "react";

import type { SubmissionView, TrialView } from "../../api/client";
import { roundQuery, setPrediction, submissionQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { clock, foreseen, marks, show, valueAt } from "../../values";
import { useWatched } from "./watched";
import { Button } from "../../shell/Button";

/** Marks by concept and task. */
export function Parts({ submission }: { submission: SubmissionView }) {
  const parts = [...Object.entries(submission.by_concept), ...Object.entries(submission.by_task)];
  if (parts.length === 0) return null;
  return (
    <dl
      className="mt-2 flex flex-wrap gap-x-4 border-t border-base-300 pt-1 text-sm"
      aria-label="Marks by concept and task"
    >
      {parts.map(([name, part]) => (
        <div key={name} className="flex gap-1">
          <dt className="text-neutral">{name}</dt>
          <dd>
            {marks(part.marks)} of {marks(part.out_of)}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** First what the values will be, then what they were: prediction, run and reference side by side. */
export function Prediction() {
  const { trial, submission, scenario, seek } = useWatched();
  const kept = submission?.predictions[String(scenario)];
  const came = submission?.foretold[String(scenario)] ?? {};
  const [guesses, setGuesses] = useState<Record<string, string>>(kept ?? {});
  const [compared, setCompared] = useState(kept !== undefined);
  const touched = submission ? [roundQuery(submission.round_id), submissionQuery(submission.id)] : [];
  const keeping = useChange(
    () => (submission ? setPrediction(submission.id, scenario, guesses) : Promise.resolve(null)),
    ...touched,
  );
  const predict = trial.predict;
  if (!predict) return null;
  const at = (name: string, samples: TrialView["samples"]) =>
    samples === trial.samples
      ? foreseen(trial, name, predict.frame)
      : name === "told"
        ? ""
        : show(valueAt(samples[name], predict.frame));
  return (
    <form
      className="border-t border-base-300 pt-2 text-sm"
      aria-label="Prediction"
      onSubmit={(event) => {
        event.preventDefault();
        setCompared(true);
        keeping.mutate(undefined);
        seek(predict.frame);
      }}
    >
      <h2 className="text-neutral">Predict: what is it at {clock(predict.frame, trial.unit)}?</h2>
      <table className="w-full">
        {compared ? (
          <thead className="text-left text-neutral">
            <tr>
              <th scope="col" />
              <th scope="col">predicted</th>
              <th scope="col">this run</th>
              <th scope="col">reference</th>
            </tr>
          </thead>
        ) : null}
        <tbody>
          {predict.names.map((name) => (
            <tr key={name}>
              <th scope="row" className="pr-2 text-left font-semibold">
                {name}
              </th>
              <td>
                <input
                  className="input input-xs w-24"
                  aria-label={`${name} will be`}
                  value={guesses[name] ?? ""}
                  onChange={(event) => {
                    setGuesses({ ...guesses, [name]: event.target.value });
                    setCompared(false);
                  }}
                />
              </td>
              {compared ? (
                <>
                  <td className={came[name] === false ? "font-semibold" : ""}>
                    {at(name, trial.samples)}
                    {came[name] === undefined ? "" : came[name] ? ", as predicted" : ", not as predicted"}
                  </td>
                  <td>{trial.reference ? at(name, trial.reference.samples) : ""}</td>
                </>
              ) : null}
            </tr>
          ))}
        </tbody>
      </table>
      <Button type="submit" size="xs" className="mt-1">
        Compare
      </Button>
      {keeping.isSuccess && submission ? (
        <span role="status" className="pl-2 text-neutral">
          Kept with the try.
        </span>
      ) : null}
      {keeping.isError ? (
        <span role="alert" className="pl-2 text-error">
          {keeping.error.message}
        </span>
      ) : null}
    </form>
  );
}

/** The trial as a scenario that can be put into an exercise. */
export function AsScenario({ toml }: { toml: string }) {
  const [copied, setCopied] = useState(false);
  if (!toml) return null;
  return (
    <details className="border-t border-base-300 pt-1 text-sm">
      <summary className="cursor-pointer text-neutral">This trial as a scenario</summary>
      <pre className="mono max-h-48 overflow-auto border border-base-300 p-2" data-toml>
        {toml}
      </pre>
      <Button
        size="xs"
        className="mt-1"
        onClick={() => void navigator.clipboard.writeText(toml).then(() => setCopied(true))}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </details>
  );
}
