import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";

import type { TryView } from "../../api/client";
import { trialQuery, tryQuery } from "../../api/queries";
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
  const attempt = useQuery(tryQuery(id));
  const search = useSearchParams()[0];
  const asked = search.get("trial");
  const earlier = search.get("beside") === "earlier";
  const which = asked === "shortest" ? asked : asked !== null ? Number(asked) : attempt.data ? firstLook(attempt.data, scenario) : null;
  const trial = useQuery({ ...trialQuery(id, scenario, which ?? 0, earlier), enabled: which !== null });

  const failed = attempt.error ?? trial.error;
  if (failed) {
    return (
      <Shell title="Trial" path="Trial" keys={KEYS}>
        <Failed what="this trial" error={failed} retry={() => void Promise.all([attempt.refetch(), trial.refetch()])} />
      </Shell>
    );
  }
  if (!attempt.data || !trial.data) {
    return (
      <Shell title="Trial" path="Trial" keys={KEYS}>
        <Loading what="the trial" />
      </Shell>
    );
  }
  return (
    <Shell
      title={`${attempt.data.student}, ${trial.data.scenario}`}
      path={<Path attempt={attempt.data} scenario={scenario} trial={which ?? 0} earlier={earlier} />}
      aside={<Standing attempt={attempt.data} scenario={scenario} />}
      keys={KEYS}
    >
      {trial.data.trace && trial.data.asides ? (
        <Watching key={`${keyOf(attempt.data, scenario)} ${which}`} subject={{ source: attempt.data.source, label: `Script of ${attempt.data.student}`, attempt: attempt.data }} scenario={scenario} trial={trial.data} trace={trial.data.trace} asides={trial.data.asides} />
      ) : (
        <Unreadable attempt={attempt.data} />
      )}
    </Shell>
  );
}

/** The trial to look at first: the shortest inputs that a wild scenario found, else the first broken one. */
function firstLook(attempt: TryView, scenario: number): number | "shortest" {
  return attempt.shortest[scenario] ? "shortest" : (attempt.look_at[scenario] ?? 0);
}

/** A trial begins anew when the try or the scenario is another one. */
function keyOf(attempt: TryView, scenario: number): string {
  return `${attempt.id} ${scenario}`;
}
