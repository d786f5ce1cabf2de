/** The WebSocket of a game by hand: what is heard goes to the reducer, what is said goes out at once.

Frames come faster than a slow laptop draws; they are gathered and shown together with the next drawing. */

import { useCallback, useEffect, useRef, useState } from "react";

import type { LiveHeard, LiveSaid } from "../api/client";
import { EMPTY, type Game, hear, type Heard } from "./game";

export type Say = (message: LiveHeard) => void;

/** `path` is the address of the game: that of an exercise, or of a draft. */
export function useGame(path: string, onChanged: (source: string) => void): [Game, Say, () => void] {
  const [game, setGame] = useState<Game>(EMPTY);
  const [visit, setVisit] = useState(0);
  const socket = useRef<WebSocket>(null);
  const changed = useRef(onChanged);
  useEffect(() => {
    changed.current = onChanged;
  }, [onChanged]);
  useEffect(() => {
    const address = `${window.location.protocol === "https:" ? "wss" : "ws"}://${window.location.host}${path}`;
    const made = new WebSocket(address);
    socket.current = made;
    let gathered: Heard[] = [];
    let drawing = 0;
    const draw = () => {
      drawing = 0;
      const news = gathered;
      gathered = [];
      setGame((before) => news.reduce(hear, before));
    };
    const take = (heard: Heard) => {
      gathered.push(heard);
      drawing ||= document.hidden ? window.setTimeout(draw) : requestAnimationFrame(draw);
    };
    made.onopen = () => take({ say: "joined" });
    made.onmessage = (event: MessageEvent<string>) => {
      const said = JSON.parse(event.data) as LiveSaid;
      if (said.say === "changed") changed.current(said.source);
      take(said);
    };
    made.onclose = () => take({ say: "left" });
    return () => {
      made.onclose = null;
      made.close();
      cancelAnimationFrame(drawing);
    };
  }, [path, visit]);
  const say = useCallback<Say>((message) => {
    if (socket.current?.readyState === WebSocket.OPEN) socket.current.send(JSON.stringify(message));
  }, []);
  const joinAgain = useCallback(() => {
    setGame(EMPTY);
    setVisit((before) => before + 1);
  }, []);
  return [game, say, joinAgain];
}
