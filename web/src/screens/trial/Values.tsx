import type { TraceView, TrialView } from "../../api/client";
import { clock, placeAt, same, show, valueAt } from "../../values";

interface ValuesProps {
  trial: TrialView;
  trace: TraceView;
  frame: number;
}

/** What every listed variable is in this frame, where it got that, and what the reference has. */
export function Values({ trial, trace, frame }: ValuesProps) {
  const names = [...trial.variables.map((variable) => variable.name), "outcome"];
  return (
    <dl className="mt-2 flex min-h-20 shrink-0 flex-wrap divide-x divide-base-300 border-t border-base-300 pt-2" data-values>
      {names.map((name) => (
        <Value key={name} name={name} trial={trial} trace={trace} frame={frame} />
      ))}
    </dl>
  );
}

function Value({ name, trial, trace, frame }: ValuesProps & { name: string }) {
  const history = trial.samples[name];
  const value = valueAt(history, frame);
  const reference = valueAt(trial.reference.samples[name], frame);
  const change = trace.changes.findLast(
    (each) => each.scope === "script" && (each.name === name || each.name === `game.${name}`) && each.frame <= frame,
  );
  const since = history?.[placeAt(history, frame)]?.[0] ?? 0;
  return (
    <div className="min-w-28 px-3 first:pl-0" data-value={name}>
      <dt className="text-sm text-neutral">{name}</dt>
      <dd className="text-xl leading-6 font-bold">{show(value)}</dd>
      <dd className="text-sm text-neutral">
        {change && change.frame >= 0 ? `was ${show(change.old)}, line ${change.line}` : since > 0 ? `since ${clock(since)}` : "from the beginning"}
      </dd>
      {same(value, reference) ? null : (
        <dd className="text-sm text-error">
          reference: <strong>{show(reference)}</strong>
        </dd>
      )}
    </div>
  );
}
