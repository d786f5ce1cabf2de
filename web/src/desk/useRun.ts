/** What is looked at: a game by hand while it runs, the same once it holds, or a scenario of the checked text. */

import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from "react";

import type { DeskChecked, LiveSaid, TrialView } from "../api/client";
import type { Base } from "../playing/liveTrial";
import { liveTrial } from "../playing/liveTrial";
import { useGame } from "../playing/useGame";
import { type ShownTrial, shown } from "../strip/steps";
import { FRAMES_PER_SECOND } from "../values";
import { nextBroken } from "../watching/moments";
import { reduce, STILL } from "../watching/playhead";
import { AS_IT_IS, beginMessage, type ByHand, FROM_START, type Wish } from "./beginning";
import type { Seat } from "./seat";

export interface Looked {
  kind: "game" | "scenario";
  /** The scenario's number; nothing for a game. */
  scenario: number | null;
  source: string;
  trial: TrialView;
}

const SPEEDS = { steps: 2 } as const;
const DRAWN = 6; // frames between drawings of the strip while a game runs

/** All of it in one place, since each part tells the others what is shown. */
export function useRun(seat: Seat, script: string, onChanged: (source: string) => void) {
  const [speed, setSpeed] = useState(1);
  const [wish, setWish] = useState<Wish>(FROM_START);
  const [hand, setHand] = useState<ByHand>(AS_IT_IS);
  const [show, setShow] = useState<readonly string[]>([]);
  const [looked, setLooked] = useState<Looked | null>(null);
  const [playing, setPlaying] = useState(false);
  const [base, setBase] = useState<Base | null>(null);
  const [error, setError] = useState("");
  const [chosen, setChosen] = useState<number | null>(null);
  const shownBefore = useRef<readonly string[]>([]);
  const hears = useRef<(said: LiveSaid) => void>(() => undefined);
  const heard = useCallback((said: LiveSaid) => hears.current(said), []);
  const { game, say, begin } = useGame(seat.live, heard, seat.eager);

  const [head, dispatch] = useReducer(reduce, STILL);
  const runs = head.playing !== null;
  useEffect(() => {
    if (!runs) return;
    let request = 0;
    const tick = () => {
      dispatch({ do: "tick", now: performance.now() });
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(request);
  }, [runs]);

  const look = useCallback((found: Looked, frame: number | null) => {
    const seen = shown(found.trial);
    const broken = nextBroken(seen, -1, null);
    setLooked(found);
    setPlaying(false);
    setError("");
    setChosen(found.kind === "scenario" ? (broken?.check ?? null) : null);
    dispatch({
      do: "load",
      last: found.kind === "game" ? Math.max((seen.trace?.frames ?? 1) - 1, 0) : seen.last_frame,
      frame: frame ?? broken?.frame ?? (found.kind === "game" ? seen.last_frame : 0),
      rate: seen.unit === "step" ? SPEEDS.steps : FRAMES_PER_SECOND,
    });
  }, []);

  /** Begins a game; without a wish, where the last one began. */
  const play = useCallback(
    (wanted: Wish = wish, middle: Base | null = base, text = script) => {
      setWish(wanted);
      setBase(middle);
      setPlaying(true);
      setError("");
      const tempo = speed || 1;
      setSpeed(tempo);
      begin({ say: "show", names: [...show] }, beginMessage(text, wanted, hand), { say: "pace", speed: tempo });
    },
    [wish, base, script, speed, show, hand, begin],
  );
  /** Begins in the middle of what is looked at, where its cursor stands. */
  const playFromHere = useCallback(() => {
    if (!looked) return;
    const middle = { trial: looked.trial, frame: head.frame };
    play({ scenario: looked.scenario, frame: head.frame, again: looked.kind === "game" }, middle);
  }, [looked, head.frame, play]);

  // a game that holds, is over or was stopped is looked at as a trial: with its lines, and a cursor to be moved
  const still = playing && game.moment.frame >= 0 && (game.status === "over" || (game.status === "playing" && !speed));
  useEffect(() => {
    if (still && !game.looked) say({ say: "look" });
  }, [still, game.looked, say]);
  useEffect(() => {
    hears.current = (said) => {
      if (said.say === "changed") {
        onChanged(said.source);
        play(wish, base, said.source);
      } else if (said.say === "looked") {
        const found = { kind: "game", scenario: null, source: game.source, trial: said.trial } as const;
        if (still) look(found, Math.max((said.trial.trace?.frames ?? 1) - 1, 0));
        else if (looked?.kind === "game") setLooked(found); // only other things are on show
      } else if (said.say === "refused") {
        setError(said.why);
        setShow(shownBefore.current);
        if (game.moment.frame < 0) setPlaying(false);
      }
    };
  });

  const pace = useCallback(
    (next: number) => {
      setSpeed(next);
      say({ say: "pace", speed: next });
      if (next && looked?.kind === "game" && game.status === "playing") setPlaying(true);
    },
    [say, looked, game.status],
  );

  /** Opens a scenario of the checked text, at a frame, or at what is broken in it. */
  const open = useCallback(
    async (checked: DeskChecked, scenario: number, frame: number | null, names: readonly string[] = show) => {
      try {
        if (playing) say({ say: "pace", speed: 0 });
        const trial = await seat.trial(checked, scenario, names);
        look({ kind: "scenario", scenario, source: checked.source, trial }, frame);
      } catch (failed) {
        setError((failed as Error).message);
      }
    },
    [look, playing, say, seat, show],
  );

  const putOnShow = useCallback(
    (names: readonly string[], checked: DeskChecked | null) => {
      shownBefore.current = show;
      setShow(names);
      setError("");
      say({ say: "show", names: [...names] });
      if (looked?.kind === "game") say({ say: "look" });
      if (looked?.scenario != null && looked.kind === "scenario" && checked)
        void open(checked, looked.scenario, head.frame, names);
    },
    [say, looked, open, head.frame, show],
  );
  const drawn = Math.floor(game.moment.frame / DRAWN);
  const live = useMemo(
    () => {
      const more = show.map((name) => ({ name, meaning: "", label: null }));
      const played = { version: seat.version, scene: seat.scene, variables: [...seat.variables, ...more] };
      return playing && game.moment.frame >= 0 ? liveTrial(game, played, base) : null;
    },
    // drawing the whole strip thirty times a second would be for nobody
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [playing, drawn, game.status, show, base, seat],
  );
  const trial: ShownTrial | null = useMemo(
    () => (playing ? live : looked ? shown(looked.trial) : null),
    [playing, live, looked],
  );
  return {
    ...{ game, say, speed, pace, wish, hand, setHand, show, putOnShow, looked, playing, error, chosen, setChosen },
    ...{
      head,
      dispatch,
      play,
      playFromHere,
      open,
      trial,
      frame: playing ? Math.max(game.moment.frame, 0) : head.frame,
    },
  };
}

export type Run = ReturnType<typeof useRun>;
