/** What happened in a frame, in a sentence that can be heard. */

import type { ShownTrial } from "../strip/steps";
import { clock, show, valueAt } from "../values";
import { DESK } from "../words/desk";

/** Such as `At 2.77 s hob met bun_5, score became 5. The game goes on.` */
export function saidAt(trial: ShownTrial, frame: number): string {
  const met = trial.overlaps.filter((each) => each.first === frame).map((each) => DESK.met(...each.pair));
  const became = trial.variables.flatMap(({ name }) =>
    (trial.samples[name] ?? [])
      .filter(([at], index) => at === frame && (index > 0 || at > 0))
      .map(([, value]) => DESK.became(name, show(value))),
  );
  const told = (trial.trace?.story ?? []).filter((line) => line.frame === frame).map((line) => `“${line.text}”`);
  const stopped = trial.trace?.stopped;
  const outcome = show(valueAt(trial.samples["outcome"], frame));
  const how =
    stopped && frame >= stopped.frame
      ? stopped.plain
      : outcome === "won"
        ? DESK.won
        : outcome === "lost"
          ? DESK.lost_
          : DESK.goesOn;
  return DESK.moment(clock(frame, trial.unit), [...met, ...became, ...told], how);
}
