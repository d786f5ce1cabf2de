import { clock, indexAt, same, shorten, show, valueAt } from "../../values";
import { useWatched } from "./watched";

/** What every listed variable is in this frame, where it got that, and what the reference has. */
export function Values({ frame }: { frame: number }) {
  const { trial } = useWatched();
  const names = [...trial.variables.map((variable) => variable.name), "outcome"];
  return (
    <dl
      className="mt-2 flex min-h-16 shrink-0 divide-x divide-base-300 overflow-x-auto border-t border-base-300 pt-1"
      data-values
    >
      {names.map((name) => (
        <Value key={name} name={name} frame={frame} />
      ))}
    </dl>
  );
}

function Value({ name, frame }: { name: string; frame: number }) {
  const { trial, trace } = useWatched();
  const history = trial.samples[name];
  const value = valueAt(history, frame);
  const reference = trial.reference ? valueAt(trial.reference.samples[name], frame) : value;
  const change = trace.changes.findLast(
    (each) => each.scope === "script" && (each.name === name || each.name === `game.${name}`) && each.frame <= frame,
  );
  const since = history?.[indexAt(history, frame)]?.[0] ?? 0;
  return (
    <div className="min-w-0 shrink-0 grow basis-0 px-2 first:pl-0" data-value={name}>
      <dt className="text-sm text-neutral">{name}</dt>
      <dd className="text-xl leading-6 font-bold whitespace-nowrap">{shorten(show(value), 24)}</dd>
      <dd className="text-sm whitespace-nowrap text-neutral">
        {change && change.frame >= 0
          ? `was ${show(change.old)}, line ${change.line}`
          : since > 0
            ? `since ${clock(since, trial.unit)}`
            : "from the beginning"}
      </dd>
      {same(value, reference) ? null : (
        <dd className="text-sm whitespace-nowrap text-error">
          reference: <strong>{show(reference)}</strong>
        </dd>
      )}
    </div>
  );
}
