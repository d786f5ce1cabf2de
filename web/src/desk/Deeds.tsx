import { type SyntheticEvent, useState } from "react";

import type { SceneView } from "../api/client";
import { show } from "../values";
import type { Game } from "../playing/game";
import type { Say } from "../playing/useGame";
import { Button } from "../shell/Button";

interface DeedsProps {
  scene: SceneView;
  game: Game;
  say: Say;
}

/** What a player does besides keys and clicks: choices, answers, words, and the dials of the facts. */
export function Deeds({ scene, game, say }: DeedsProps) {
  const { offers, questions, place, facts } = game.moment;
  const words = game.source.includes("typed(");
  const facty = scene.facts.length > 0;
  if (!questions.length && !offers.length && !facty && !place && !words) return null;
  const idle = game.status !== "playing";
  const deed = (what: "pick" | "answer" | "type", text: string) =>
    say({ say: "did", inputs: [{ do: what, what: text, value: null }] });
  return (
    <fieldset
      disabled={idle}
      className="mt-2 flex shrink-0 flex-wrap items-end gap-x-5 gap-y-2 border-t border-base-300 pt-2 text-sm"
      aria-label="What the player can do"
      data-deeds
    >
      {questions.length > 0 ? (
        <Line label={questions[0] ?? ""} action="Answer" onSay={(text) => deed("answer", text)} />
      ) : null}
      {offers.length > 0 ? (
        <div className="flex flex-wrap gap-2" role="group" aria-label="Choices">
          {offers.map((offer) => (
            <Button key={offer} onClick={() => deed("pick", offer)}>
              {offer}
            </Button>
          ))}
        </div>
      ) : null}
      {scene.facts.map((fact) => (
        <Dial
          key={fact.name}
          fact={fact}
          value={facts[fact.name] ?? fact.start}
          frame={game.moment.frame}
          onTurn={(value) => say({ say: "did", inputs: [{ do: "set", what: fact.name, value }] })}
        />
      ))}
      {place ? (
        <p>
          <span className="text-neutral">place</span> {place}
        </p>
      ) : null}
      {words ? <Line label="Say words" action="Say" onSay={(text) => deed("type", text)} /> : null}
    </fieldset>
  );
}

/** One line to be written and sent. */
function Line({ label, action, onSay }: { label: string; action: string; onSay: (text: string) => void }) {
  const [text, setText] = useState("");
  const send = (event: SyntheticEvent) => {
    event.preventDefault();
    if (!text && action !== "Answer") return;
    onSay(text);
    setText("");
  };
  return (
    <form onSubmit={send} className="flex flex-col">
      <label className="flex flex-col gap-0.5">
        <span className="text-neutral">{label}</span>
        <span className="flex gap-1">
          <input
            className="input input-sm w-36"
            value={text}
            maxLength={200}
            onChange={(event) => setText(event.target.value)}
          />
          <Button type="submit" look="quiet">
            {action}
          </Button>
        </span>
      </label>
    </form>
  );
}

type Turned = string | number | boolean;

/** Frames for which a dial shows what it was turned to, while the game has not answered yet. */
const PATIENCE = 10;

interface DialProps {
  fact: SceneView["facts"][number];
  value: unknown;
  frame: number;
  onTurn: (value: Turned) => void;
}

/** A fact of the scene, turned by hand. */
function Dial({ fact, value: known, frame, onTurn: tell }: DialProps) {
  const [turned, setTurned] = useState<{ value: Turned; frame: number } | null>(null);
  const waiting = turned !== null && frame >= turned.frame && frame < turned.frame + PATIENCE;
  const value = waiting ? turned.value : known;
  const onTurn = (next: Turned) => {
    setTurned({ value: next, frame });
    tell(next);
  };
  const choices = fact.choices ?? (typeof fact.start === "boolean" ? [false, true] : null);
  if (choices) {
    return (
      <label className="flex flex-col gap-0.5">
        <span className="text-neutral">{fact.name}</span>
        <select
          className="select select-sm w-28"
          value={choices.findIndex((each) => each === value)}
          onChange={(event) => onTurn(choices[Number(event.target.value)] as Turned)}
        >
          {choices.map((choice, index) => (
            <option key={show(choice)} value={index}>
              {show(choice)}
            </option>
          ))}
        </select>
      </label>
    );
  }
  const [low, high] = fact.range ?? [null, null];
  const number = typeof fact.start === "number";
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-neutral">
        {fact.name} {low !== null ? <strong className="text-base-content">{show(value)}</strong> : null}
      </span>
      {low !== null ? (
        <input
          type="range"
          className="range range-xs w-36 [--range-fill:0]"
          min={low}
          max={high}
          step={Number.isInteger(fact.start) && Number.isInteger(low) ? 1 : "any"}
          value={Number(value)}
          onChange={(event) => onTurn(Number(event.target.value))}
        />
      ) : (
        <input
          className="input input-sm w-24"
          type={number ? "number" : "text"}
          value={show(value)}
          onChange={(event) => onTurn(number ? Number(event.target.value) : event.target.value)}
        />
      )}
    </label>
  );
}
