/** A game that runs as a trial, so that the strip is drawn while it is played. */

import type { SceneView, TrialView } from "../api/client";
import type { ShownTrial } from "../strip/steps";
import { FRAMES_PER_SECOND } from "../values";
import type { Game } from "./game";

export interface Played {
  version: number;
  scene: SceneView;
  variables: TrialView["variables"];
}

/** The trial in whose middle a game began, and the frame. */
export interface Base {
  trial: TrialView;
  frame: number;
}

const SHORTEST = 10 * FRAMES_PER_SECOND;
const STEP = 5 * FRAMES_PER_SECOND; // the strip grows by so much at once, so that it does not slip all the time

/** The game so far; what lies before the moment in which it began is that of its base. */
export function liveTrial(game: Game, { version, scene, variables }: Played, base: Base | null): ShownTrial {
  const frame = Math.max(game.moment.frame, 0);
  const { seen } = game;
  return {
    scenario: "a game by hand",
    trial: 0,
    trials: [""],
    visible: true,
    version_id: version,
    last_frame: Math.max(SHORTEST, Math.ceil((frame + FRAMES_PER_SECOND) / STEP) * STEP),
    seed: game.seed,
    luck: null,
    arrange: [],
    variables,
    inputs: seen.inputs.map((given) => ({ ...given, up: Math.min(given.up, frame + 1) })),
    checks: [],
    trace: {
      frames: frame + 1,
      outcome: game.outcome as "playing",
      stopped: game.stopped,
      log: [],
      story: seen.story,
      changes: [],
      tests: [],
      events: seen.events,
      messages: seen.messages,
      board: [],
      offers: [],
      sounds: seen.sounds,
      pieces: {},
      lines: {},
      thinned: [],
      final: {},
    },
    asides: { board: [], questions: [], places: seen.places, facts: [], missed: [] },
    samples: base ? joined(base, seen.samples) : seen.samples,
    overlaps: seen.overlaps,
    straight: false,
    steps: [],
    reference: null,
    parting: null,
    scene,
    toml: "",
    predict: null,
    unit: "frame",
  };
}

/** What something was before the game began, and what it was since. */
function joined({ trial, frame }: Base, samples: Game["seen"]["samples"]): TrialView["samples"] {
  const before = (name: string) => (trial.samples[name] ?? []).filter(([at]) => at < frame);
  return Object.fromEntries(Object.entries(samples).map(([name, since]) => [name, [...before(name), ...since]]));
}
