import { clock, shorten, show, valueAt } from "../values";
import type { Seat } from "./seat";
import type { Run } from "./useRun";

/** What everything on show is in this frame, and which line made it so. */
export function Values({ run, seat }: { run: Run; seat: Seat }) {
  const { playing, game, trial, frame } = run;
  const names = [...seat.variables.map((each) => each.name), ...run.show, "outcome"];
  const changes = playing ? [] : (trial?.trace?.changes ?? []);
  return (
    <dl className="flex min-h-14 shrink-0 flex-wrap gap-x-6 py-1" data-values>
      {names.map((name) => {
        const value = playing
          ? name === "outcome"
            ? game.outcome
            : game.values[name]
          : valueAt(trial?.samples[name], frame);
        const change = changes.findLast(
          (each) =>
            each.scope === "script" && (each.name === name || each.name === `game.${name}`) && each.frame <= frame,
        );
        return (
          <div key={name} className="min-w-16" data-value={name} title={meaningOf(seat, name)}>
            <dt className="text-sm text-neutral">{name}</dt>
            <dd className="text-lg leading-6 font-bold whitespace-nowrap">
              {trial === null ? "–" : shorten(show(value), 24)}
            </dd>
            <dd className="text-sm whitespace-nowrap text-neutral">
              {change && change.frame >= 0 ? `was ${show(change.old)}, line ${change.line}` : ""}
            </dd>
          </div>
        );
      })}
      {trial?.trace?.stopped && !playing ? (
        <div>
          <dt className="text-sm text-neutral">stopped</dt>
          <dd>{clock(trial.trace.stopped.frame, trial.unit)}</dd>
        </div>
      ) : null}
    </dl>
  );
}

function meaningOf(seat: Seat, name: string): string | undefined {
  return seat.variables.find((each) => each.name === name)?.meaning;
}
