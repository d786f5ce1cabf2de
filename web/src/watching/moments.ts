/** The frames of a trial that are worth going to. */

import type { TrialView } from "../api/client";

/** Frames in which a listed variable or the outcome changed, rising. */
export function changeFrames(trial: TrialView): number[] {
  const names = [...trial.variables.map((variable) => variable.name), "outcome"];
  const frames = names.flatMap((name) => (trial.samples[name] ?? []).slice(1).map(([frame]) => frame));
  return [...new Set(frames)].sort((a, b) => a - b);
}

/** Broken checks with their frames, rising; one that is broken in no frame stands at its span's end. */
export function brokenChecks(trial: TrialView): { check: number; frame: number }[] {
  return trial.checks
    .map((check, index) => ({ check: index, frame: check.frame ?? check.span[1], verdict: check.verdict }))
    .filter((each) => each.verdict === "broken")
    .sort((a, b) => a.frame - b.frame);
}

/** The next entry after a frame, from the beginning again after the last. */
export function nextBroken(
  trial: TrialView,
  frame: number,
  chosen: number | null,
): { check: number; frame: number } | null {
  const broken = brokenChecks(trial);
  const index = broken.findIndex((each) => each.check === chosen && each.frame === frame);
  if (index >= 0) return broken[(index + 1) % broken.length] ?? null;
  return broken.find((each) => each.frame > frame) ?? broken[0] ?? null;
}
