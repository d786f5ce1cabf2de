import { type SyntheticEvent, useId, useState } from "react";

import type { DeskChecked } from "../api/client";
import { Button } from "../shell/Button";
import { DESK } from "../words/desk";
import { showable } from "./beginning";
import type { Seat } from "./seat";
import type { Run } from "./useRun";

interface OnShowProps {
  run: Run;
  seat: Seat;
  checked: DeskChecked | null;
}

/** What has a lane on the strip besides the listed variables; anything can be put there and taken off again. */
export function OnShow({ run, seat, checked }: OnShowProps) {
  const list = useId();
  const [name, setName] = useState("");
  const { show, putOnShow, game, trial } = run;
  const own = game.names.length
    ? game.names
    : [...new Set((trial?.trace?.changes ?? []).filter((each) => each.scope === "script").map((each) => each.name))];
  const listed = [...seat.variables.map((each) => each.name), ...show];
  const add = (event: SyntheticEvent) => {
    event.preventDefault();
    const wanted = name.trim();
    if (!wanted || listed.includes(wanted)) return;
    putOnShow([...show, wanted], checked);
    setName("");
  };
  return (
    <form onSubmit={add} className="flex flex-wrap items-center gap-x-3 px-4 pt-1 text-sm" data-on-show>
      <label className="flex items-center gap-2">
        <span className="text-neutral">{DESK.putOnShow}</span>
        <input
          className="input input-xs w-44"
          list={list}
          value={name}
          maxLength={80}
          placeholder={DESK.showExample}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <datalist id={list}>
        {showable(seat.scene, own, listed).map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
      {show.map((each) => (
        <Button
          key={each}
          look="quiet"
          size="xs"
          aria-label={DESK.takeOff(each)}
          title={DESK.takeOff(each)}
          onClick={() =>
            putOnShow(
              show.filter((other) => other !== each),
              checked,
            )
          }
        >
          <code>{each}</code> ✕
        </Button>
      ))}
      {run.error ? (
        <span role="alert" className="text-error">
          {run.error}
        </span>
      ) : null}
    </form>
  );
}
