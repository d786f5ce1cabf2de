/** A game by hand as the screen holds it: a pure reducer over what the server says. */

import type { LiveNews, LiveSaid, ProblemReport, StopView, StoryView, TraceView, TrialView } from "../api/client";
import type { Moment, Stand } from "../scene/moment";
import { TELLING } from "../scene/moment";

export type Status = "joining" | "ready" | "playing" | "over" | "unread" | "ended";

/** What was seen of a game, for its strip: it grows while the game runs. */
export interface Seen {
  inputs: TrialView["inputs"];
  samples: Record<string, [number, unknown][]>;
  story: StoryView[];
  sounds: TraceView["sounds"];
  messages: TraceView["messages"];
  events: TraceView["events"];
  overlaps: TrialView["overlaps"];
  places: { frame: number; place: string }[];
}

export interface Game {
  status: Status;
  pieces: ReadonlyMap<string, Stand>;
  moment: Moment;
  values: Readonly<Record<string, unknown>>;
  outcome: string;
  story: readonly StoryView[];
  sounds: readonly string[];
  seen: Seen;
  stopped: StopView | null;
  problems: readonly ProblemReport[];
  /** Why no game runs any more. */
  why: string;
  /** The number under which this game was kept. */
  kept: number | null;
  /** What was played, as a scenario: only where an author plays. */
  played: Readonly<Record<string, unknown>> | null;
  /** The game so far as a trial, where it was asked for. */
  looked: TrialView | null;
  /** The script that is being played, its own variables, and the seed of the game. */
  source: string;
  names: readonly string[];
  seed: number;
}

const NOTHING: Moment = {
  frame: -1,
  pieces: [],
  board: [],
  offers: [],
  questions: [],
  place: "",
  facts: {},
  telling: [],
};

const UNSEEN: Seen = {
  inputs: [],
  samples: {},
  story: [],
  sounds: [],
  messages: [],
  events: [],
  overlaps: [],
  places: [],
};

export const EMPTY: Game = {
  status: "joining",
  pieces: new Map(),
  moment: NOTHING,
  values: {},
  outcome: "playing",
  story: [],
  sounds: [],
  seen: UNSEEN,
  stopped: null,
  problems: [],
  why: "",
  kept: null,
  played: null,
  looked: null,
  source: "",
  names: [],
  seed: 1,
};

/** Lines of the story that are kept on the screen. */
const LINES = 200;

export type Heard = LiveSaid | { say: "joined" } | { say: "left" };

export function hear(game: Game, heard: Heard): Game {
  switch (heard.say) {
    case "joined":
      return { ...EMPTY, status: "ready" };
    case "left":
      return game.status === "ended"
        ? game
        : { ...game, status: "ended", why: "The server does not answer. See whether it still runs, then begin again." };
    case "began": {
      const { source, names, seed } = heard;
      return withNews({ ...EMPTY, status: "playing", source, names, seed }, heard.news);
    }
    case "frame":
      return withNews(game, heard.news);
    case "unread":
      return { ...EMPTY, status: "unread", problems: heard.problems };
    case "kept":
      return { ...game, kept: heard.id, played: heard.scenario ?? null };
    case "looked":
      return { ...game, looked: heard.trial };
    case "ended":
      return { ...game, status: "ended", why: heard.why };
    case "changed":
    case "refused":
      return game; // that is for the screen
  }
}

function withNews(game: Game, news: LiveNews): Game {
  const moved = Object.entries(news.pieces ?? {});
  const pieces = moved.length > 0 ? new Map(game.pieces) : game.pieces;
  for (const [name, drawn] of moved) {
    if (drawn) (pieces as Map<string, Stand>).set(name, standOf(name, drawn));
    else (pieces as Map<string, Stand>).delete(name);
  }
  const story = news.story?.length ? [...game.story, ...news.story].slice(-LINES) : game.story;
  const stopped = news.stopped ?? game.stopped;
  const over = news.over ?? game.status === "over";
  return {
    ...game,
    status: over ? "over" : "playing",
    pieces,
    values: news.values ?? game.values,
    outcome: news.outcome ?? game.outcome,
    story,
    sounds: news.sounds?.length ? [...game.sounds, ...news.sounds].slice(-LINES) : game.sounds,
    seen: seenMore(game.seen, news),
    stopped,
    looked: null,
    moment: {
      frame: news.frame,
      pieces: moved.length > 0 ? [...pieces.values()] : game.moment.pieces,
      board:
        news.board?.map((entry) => ({ label: entry.label, value: entry.value, at: entry.at })) ?? game.moment.board,
      offers: news.offers ?? game.moment.offers,
      questions: news.questions ?? game.moment.questions,
      place: news.place ?? game.moment.place,
      facts: news.facts ?? game.moment.facts,
      telling: story.filter((line) => line.who && line.frame > news.frame - TELLING),
    },
  };
}

/** What was seen, with the news; lists that do not grow stay the same ones. */
function seenMore(seen: Seen, news: LiveNews): Seen {
  const frame = Math.max(news.frame, 0);
  const more = <Entry>(before: Entry[], further: readonly Entry[] | undefined): Entry[] =>
    further?.length ? [...before, ...further] : before;
  const inputs = news.inputs?.length ? [...seen.inputs] : seen.inputs;
  for (const { index, ...given } of news.inputs ?? []) inputs[index] = given;
  const now = { ...news.values, ...(news.outcome === undefined ? {} : { outcome: news.outcome }) };
  const changed = Object.entries(now).filter(([name, value]) => {
    const last = seen.samples[name]?.at(-1);
    return !last || JSON.stringify(last[1]) !== JSON.stringify(value);
  });
  const samples = changed.length ? { ...seen.samples } : seen.samples;
  for (const [name, value] of changed) samples[name] = [...(samples[name] ?? []), [frame, value]];
  return {
    inputs,
    samples,
    story: more(seen.story, news.story),
    sounds: more(
      seen.sounds,
      news.sounds?.map((name) => ({ frame, name })),
    ),
    messages: more(seen.messages, news.messages),
    events: more(seen.events, news.events),
    overlaps: more(seen.overlaps, news.overlaps),
    places: more(seen.places, news.place ? [{ frame, place: news.place }] : []),
  };
}

type Drawn = NonNullable<NonNullable<LiveNews["pieces"]>[string]>;

function standOf(name: string, drawn: Drawn): Stand {
  const [kind, x, y, look, size, opacity, facing, carrying] = drawn;
  return { name, kind, x, y, look, size, opacity, facing, carrying };
}
