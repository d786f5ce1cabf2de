/** A trial of a script that runs from top to bottom, shown by steps instead of seconds.

Most of such a script happens in one moment, so time says nothing about it. Every position on its strip is a step: a
question, an answer, a line that was told, a variable that changed. Position 0 is the beginning, before any of them. */

import type { StepView, TrialView } from "../api/client";
import type { Unit } from "../values";

/** A trial with what its positions mean: frames, or steps. */
export interface ShownTrial extends TrialView {
  unit: Unit;
}

type History = [number, unknown][];

/** The trial as it is shown; `frame` means a step wherever its unit says so. */
export function shown(trial: TrialView): ShownTrial {
  if (!trial.straight || !trial.trace) return { ...trial, unit: "frame" };
  const steps = trial.steps;
  const end = steps.length;
  const at = (frame: number) => steps.reduce((last, step, index) => (step.frame <= frame ? index + 1 : last), 0);
  const names = [...trial.variables.map((variable) => variable.name), "outcome"];
  const samples = Object.fromEntries(names.map((name) => [name, historyOf(name, steps)]));
  const beside = trial.reference;
  const reference = Object.fromEntries(names.map((name) => [name, aligned(name, beside?.steps ?? [], steps)]));
  const parts = (beside ? names : [])
    .map((name) => ({ name, frame: firstDifference(samples[name] ?? [], reference[name] ?? [], end) }))
    .filter((each): each is { name: string; frame: number } => each.frame !== null)
    .sort((a, b) => a.frame - b.frame)[0];
  const stopped = trial.trace.stopped;
  return {
    ...trial,
    unit: "step",
    last_frame: end,
    inputs: steps.flatMap((step, index) =>
      step.kind === "answered"
        ? [{ kind: "answer" as const, frame: index + 1, what: step.text, value: null, up: index + 1, until: null }]
        : [],
    ),
    checks: trial.checks.map((check) => ({
      ...check,
      frame: check.frame === null ? null : at(check.frame),
      span: [at(check.span[0]), at(check.span[1])],
    })),
    samples,
    reference: beside && { ...beside, samples: reference },
    parting: parts
      ? { frame: parts.frame, seconds: 0, what: parts.name }
      : stopped
        ? { frame: end, seconds: 0, what: "the script stops" }
        : null,
    overlaps: [],
    trace: {
      ...trial.trace,
      frames: end + 1,
      stopped: stopped ? { ...stopped, frame: end } : null,
      story: steps.flatMap((step, index) =>
        isTold(step) ? [{ frame: index + 1, line: step.line, text: step.text, who: "" }] : [],
      ),
      changes: changesOf(steps),
      tests: trial.trace.tests.map((test) => ({ ...test, frame: at(test.frame) })),
      sounds: trial.trace.sounds.map((sound) => ({ ...sound, frame: at(sound.frame) })),
      events: [],
      lines: linesOf(trial.trace.lines, steps),
    },
    asides: trial.asides && {
      ...trial.asides,
      board: trial.asides.board.map((each) => ({ ...each, frame: at(each.frame) })),
    },
  };
}

function isTold(step: StepView): boolean {
  return step.kind === "told" || step.kind === "asked";
}

/** The values that a thing took, by position; unset (or "playing") at the beginning. */
function historyOf(name: string, steps: readonly StepView[]): History {
  const changes = steps.flatMap((step, index): History =>
    step.kind === "changed" && step.text === name ? [[index + 1, step.value]] : [],
  );
  return [[0, name === "outcome" ? "playing" : { unset: true }], ...changes];
}

/** The same of the reference, at the positions of this run: its changes stand between the same two answers,
beside the script's own change of the thing where there is one, else at the last step before the next answer. */
function aligned(name: string, reference: readonly StepView[], own: readonly StepView[]): History {
  const parts = segments(own);
  const found: History = [[0, name === "outcome" ? "playing" : { unset: true }]];
  segments(reference).forEach((part, number) => {
    const mine = parts[number];
    const places =
      mine?.filter(({ step }) => step.kind === "changed" && step.text === name).map(({ position }) => position) ?? [];
    const last = mine?.at(-1)?.position ?? own.length;
    part
      .filter(({ step }) => step.kind === "changed" && step.text === name)
      .forEach(({ step }, turn) => found.push([Math.max(places[turn] ?? last, found.at(-1)?.[0] ?? 0), step.value]));
  });
  return found.filter(([position], index) => found[index + 1]?.[0] !== position);
}

interface Placed {
  step: StepView;
  position: number;
}

/** The steps before the first answer, between the first and the second, and so on. */
function segments(steps: readonly StepView[]): Placed[][] {
  const found: Placed[][] = [[]];
  steps.forEach((step, index) => {
    if (step.kind === "answered") found.push([]);
    found.at(-1)?.push({ step, position: index + 1 });
  });
  return found;
}

function firstDifference(own: History, reference: History, end: number): number | null {
  const value = (history: History, position: number) =>
    JSON.stringify(history.filter(([at]) => at <= position).at(-1)?.[1]);
  for (let position = 0; position <= end; position += 1)
    if (value(own, position) !== value(reference, position)) return position;
  return null;
}

function changesOf(steps: readonly StepView[]) {
  const known = new Map<string, unknown>();
  return steps.flatMap((step, index) => {
    if (step.kind !== "changed") return [];
    const old = known.has(step.text) ? known.get(step.text) : { unset: true };
    known.set(step.text, step.value);
    return [
      { frame: index + 1, line: step.line, handler: null, scope: "script", name: step.text, old, new: step.value },
    ];
  });
}

type Lines = NonNullable<TrialView["trace"]>["lines"];

/** The position of a line that took no step: in its moment, the first step of a line below it, else the last. */
function nearest(steps: readonly StepView[], frame: number, line: number): number {
  const moment = steps.find((step) => step.frame >= frame)?.frame ?? frame;
  const below = steps.findIndex((step) => step.frame === moment && step.line >= line);
  return (below >= 0 ? below : steps.findLastIndex((step) => step.frame <= moment)) + 1;
}

/** For each line the steps that it took; a line that took none stands beside the steps of its moment. */
function linesOf(lines: Lines, steps: readonly StepView[]): Lines {
  return Object.fromEntries(
    Object.entries(lines).map(([line, spans]) => {
      const own = steps.flatMap((step, index) => (step.line === Number(line) ? [index + 1] : []));
      const often = spans.reduce((sum, [, , count]) => sum + count, 0);
      const first = own.length > 0 ? own : spans.map(([since]) => nearest(steps, since, Number(line)));
      return [
        line,
        first.map((position, turn): [number, number, number] => [
          position,
          position,
          turn === 0 ? Math.max(often - first.length + 1, 1) : 1,
        ]),
      ];
    }),
  );
}
