/** The WebSocket of a game by hand: what is heard goes to the reducer, what is said goes out at once.

Frames come faster than a slow laptop draws; they are gathered and shown together with the next drawing. */

import { useCallback, useEffect, useRef, useState } from "react";

import type { LiveHeard, LiveSaid } from "../api/client";
import { EMPTY, type Game, hear, type Heard } from "./game";

export type Say = (message: LiveHeard) => void;

export interface Hand {
  game: Game;
  /** Says something where a game can hear it. */
  say: Say;
  /** Says something, and opens the socket for it where there is none. */
  begin: (...messages: readonly LiveHeard[]) => void;
}

/** `path` is the address of the game: that of an exercise, a desk or a draft. Without `eager`, nobody is there until
somebody begins; so those who only write take no place away. `onSaid` hears what is more than news: that the file
changed, what the game was so far, and what it cannot do. */
export function useGame(path: string, onSaid: ((said: LiveSaid) => void) | null, eager = true): Hand {
  const [game, setGame] = useState<Game>(() => (eager ? EMPTY : { ...EMPTY, status: "ready" }));
  const [visit, setVisit] = useState(eager ? 1 : 0);
  const socket = useRef<WebSocket>(null);
  const waiting = useRef<readonly LiveHeard[]>([]);
  const hears = useRef(onSaid);
  useEffect(() => {
    hears.current = onSaid;
  }, [onSaid]);
  useEffect(() => {
    if (visit === 0) return;
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
    made.onopen = () => {
      take({ say: "joined" });
      for (const message of waiting.current) made.send(JSON.stringify(message));
      waiting.current = [];
    };
    made.onmessage = (event: MessageEvent<string>) => {
      const said = JSON.parse(event.data) as LiveSaid;
      take(said);
      if (said.say === "changed" || said.say === "looked" || said.say === "refused") hears.current?.(said);
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
  const begin = useCallback((...messages: readonly LiveHeard[]) => {
    const state = socket.current?.readyState;
    if (state === WebSocket.OPEN) {
      for (const message of messages) socket.current?.send(JSON.stringify(message));
      return;
    }
    waiting.current = messages;
    if (state === WebSocket.CONNECTING) return;
    setGame(EMPTY);
    setVisit((before) => before + 1);
  }, []);
  return { game, say, begin };
}
