import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";

import type { SubmissionView } from "../../api/client";
import { trialQuery, submissionQuery } from "../../api/queries";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { KEYS } from "./keys";
import { Path, Standing } from "./Path";
import { Unreadable } from "./Unreadable";
import { Watching } from "./Watching";

/** One script in one scenario: script, scene, values, strip, and what happened. */
export function Trial() {
  const params = useParams();
  const id = Number(params["try"]);
  const scenario = Number(params["scenario"]);
  const submission = useQuery(submissionQuery(id));
  const search = useSearchParams()[0];
  const asked = search.get("trial");
  const earlier = search.get("beside") === "earlier";
  const which =
    asked === "shortest"
      ? asked
      : asked !== null
        ? Number(asked)
        : submission.data
          ? firstLook(submission.data, scenario)
          : null;
  const trial = useQuery({ ...trialQuery(id, scenario, which ?? 0, earlier), enabled: which !== null });

  const failed = submission.error ?? trial.error;
  if (failed) {
    return (
      <Shell title="Trial" path="Trial" keys={KEYS}>
        <Failed
          what="this trial"
          error={failed}
          retry={() => void Promise.all([submission.refetch(), trial.refetch()])}
        />
      </Shell>
    );
  }
  if (!submission.data || !trial.data) {
    return (
      <Shell title="Trial" path="Trial" keys={KEYS}>
        <Loading what="the trial" />
      </Shell>
    );
  }
  return (
    <Shell
      title={`${submission.data.student}, ${trial.data.scenario}`}
      path={<Path submission={submission.data} scenario={scenario} trial={which ?? 0} earlier={earlier} />}
      aside={<Standing submission={submission.data} scenario={scenario} />}
      keys={KEYS}
    >
      {trial.data.trace && trial.data.asides ? (
        <Watching
          key={`${keyOf(submission.data, scenario)} ${which}`}
          subject={{
            source: submission.data.source,
            label: `Script of ${submission.data.student}`,
            submission: submission.data,
          }}
          scenario={scenario}
          trial={trial.data}
        />
      ) : (
        <Unreadable submission={submission.data} />
      )}
    </Shell>
  );
}

/** The trial to look at first: the shortest inputs that a wild scenario found, else the first broken one. */
function firstLook(submission: SubmissionView, scenario: number): number | "shortest" {
  return submission.shortest[scenario] ? "shortest" : (submission.look_at[scenario] ?? 0);
}

/** A trial begins again when the try or the scenario is another one. */
function keyOf(submission: SubmissionView, scenario: number): string {
  return `${submission.id} ${scenario}`;
}
