import { Button } from "../shell/Button";
import { clock } from "../values";
import { DESK } from "../words/desk";
import { type ByHand, FROM_START, isByHand, type Wish } from "./beginning";
import type { Seat } from "./seat";
import type { Run } from "./useRun";

interface BeginningProps {
  seat: Seat;
  run: Run;
  onPlay: () => void;
}

/** Where a game begins: at the start, where a scenario does, or at the moment that is looked at; and with what. */
export function Beginning({ seat, run, onPlay }: BeginningProps) {
  const { game, playing, looked, frame, trial, wish } = run;
  const here = !playing && looked !== null && trial?.unit === "frame";
  const held = !playing && looked?.kind === "game" && game.status === "playing";
  const chosen = wish.frame >= 0 ? "here" : wish.scenario !== null ? String(wish.scenario) : "start";
  const choose = (value: string) => {
    if (value === "here") {
      if (here) run.playFromHere();
      else onPlay();
      return;
    }
    const next: Wish = value === "start" ? FROM_START : { scenario: Number(value), frame: -1, again: false };
    run.play(next, null);
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300 py-1.5 text-sm">
      <Button size="xs" disabled={game.status === "joining"} onClick={onPlay} data-play>
        {game.source || wish.scenario !== null || wish.frame >= 0 ? DESK.again : DESK.play}
      </Button>
      {held ? (
        <Button size="xs" onClick={() => run.pace(1)} data-go-on>
          {DESK.goOn}
        </Button>
      ) : null}
      <label className="flex items-center gap-1">
        <span className="text-neutral">{DESK.from}</span>
        <select
          className="select select-xs w-auto max-w-56 bg-transparent"
          value={chosen}
          onChange={(event) => choose(event.target.value)}
          data-from
        >
          <option value="start">{DESK.fromStart}</option>
          {seat.scenarios.map(({ number, name }) => (
            <option key={number} value={number}>
              {DESK.fromScenario(name)}
            </option>
          ))}
          {wish.frame >= 0 ? <option value="here">{DESK.fromHere(clock(wish.frame))}</option> : null}
        </select>
      </label>
      {here ? (
        <Button look="quiet" size="xs" onClick={() => run.playFromHere()} data-from-here>
          {DESK.play} {DESK.from} {DESK.fromHere(clock(frame))}
        </Button>
      ) : null}
      <SetByHand seat={seat} hand={run.hand} onHand={run.setHand} />
    </div>
  );
}

/** Values, luck and seed that are put in place where a game begins. */
function SetByHand({ seat, hand, onHand }: { seat: Seat; hand: ByHand; onHand: (hand: ByHand) => void }) {
  return (
    <details className="grow" data-by-hand>
      <summary className="cursor-pointer text-neutral">
        {DESK.byHandSet}
        {isByHand(hand) ? " ●" : ""}
      </summary>
      <fieldset className="flex flex-wrap gap-x-3 gap-y-1 py-1" aria-label={DESK.setHelp}>
        {seat.variables.map(({ name }) => (
          <label key={name} className="flex flex-col">
            <span className="text-neutral">{name}</span>
            <input
              className="input input-xs w-16"
              value={hand.values[name] ?? ""}
              maxLength={80}
              onChange={(event) => onHand({ ...hand, values: { ...hand.values, [name]: event.target.value } })}
            />
          </label>
        ))}
        <label className="flex flex-col">
          <span className="text-neutral">{DESK.more}</span>
          <input
            className="input input-xs w-32"
            placeholder={DESK.moreExample}
            value={hand.more}
            maxLength={200}
            onChange={(event) => onHand({ ...hand, more: event.target.value })}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-neutral">{DESK.luck}</span>
          <select
            className="select select-xs w-28"
            value={hand.luck}
            onChange={(event) => onHand({ ...hand, luck: event.target.value as ByHand["luck"] })}
          >
            {Object.entries(DESK.lucks).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col">
          <span className="text-neutral">{DESK.seed}</span>
          <input
            className="input input-xs w-16"
            inputMode="numeric"
            value={hand.seed}
            maxLength={9}
            onChange={(event) => onHand({ ...hand, seed: event.target.value })}
          />
        </label>
      </fieldset>
    </details>
  );
}
