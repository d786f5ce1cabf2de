/** A game by hand as the screen holds it: a pure reducer over what the server says. */

import type { LiveNews, LiveSaid, ProblemReport, StopView, StoryView } from "../api/client";
import type { Moment, Stand } from "../scene/moment";
import { TELLING } from "../scene/moment";

export type Status = "joining" | "ready" | "playing" | "over" | "unread" | "ended";

export interface Game {
  status: Status;
  pieces: ReadonlyMap<string, Stand>;
  moment: Moment;
  values: Readonly<Record<string, unknown>>;
  outcome: string;
  story: readonly StoryView[];
  sounds: readonly string[];
  stopped: StopView | null;
  problems: readonly ProblemReport[];
  /** Why no game runs any more. */
  why: string;
  /** The number under which this game was kept. */
  kept: number | null;
  /** What was played, as a scenario: only where an author plays. */
  played: Readonly<Record<string, unknown>> | null;
  /** The script that is being played. */
  source: string;
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

export const EMPTY: Game = {
  status: "joining",
  pieces: new Map(),
  moment: NOTHING,
  values: {},
  outcome: "playing",
  story: [],
  sounds: [],
  stopped: null,
  problems: [],
  why: "",
  kept: null,
  played: null,
  source: "",
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
    case "began":
      return withNews({ ...EMPTY, status: "playing", source: heard.source }, heard.news);
    case "frame":
      return withNews(game, heard.news);
    case "unread":
      return { ...EMPTY, status: "unread", problems: heard.problems };
    case "kept":
      return { ...game, kept: heard.id, played: heard.scenario ?? null };
    case "ended":
      return { ...game, status: "ended", why: heard.why };
    case "changed":
      return game; // the screen takes the new script itself
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
    stopped,
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

type Drawn = NonNullable<NonNullable<LiveNews["pieces"]>[string]>;

function standOf(name: string, drawn: Drawn): Stand {
  const [kind, x, y, look, size, opacity, facing, carrying] = drawn;
  return { name, kind, x, y, look, size, opacity, facing, carrying };
}
