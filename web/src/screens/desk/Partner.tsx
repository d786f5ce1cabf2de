import { type SyntheticEvent, useState } from "react";

import type { DeskTask } from "../../api/client";
import { workAlone, workTogether } from "../../api/desk";
import { Button } from "../../shell/Button";
import { DESK } from "../../words/desk";

/** Two at one desk: the other one's card shows that they are there. */
export function Partner({ task, onDone }: { task: DeskTask; onDone: () => Promise<unknown> }) {
  const [card, setCard] = useState("");
  const [error, setError] = useState("");
  const act = async (doing: Promise<unknown>) => {
    try {
      await doing;
      setCard("");
      setError("");
      await onDone();
    } catch (failed) {
      setError((failed as Error).message);
    }
  };
  if (task.partner)
    return (
      <p className="py-2 text-sm" data-partner={task.partner}>
        {DESK.withPartner(task.partner)}{" "}
        <Button look="quiet" size="xs" onClick={() => void act(workAlone(task.id))}>
          {DESK.alone}
        </Button>
      </p>
    );
  const add = (event: SyntheticEvent) => {
    event.preventDefault();
    if (card.trim()) void act(workTogether(task.id, card));
  };
  return (
    <details className="py-2 text-sm" data-together>
      <summary className="cursor-pointer text-neutral">{DESK.together}</summary>
      <form onSubmit={add}>
        <p>{DESK.togetherHelp}</p>
        <label className="flex flex-wrap items-center gap-2">
          {DESK.card}
          <input
            className="input input-xs w-40"
            value={card}
            maxLength={200}
            autoComplete="off"
            onChange={(event) => setCard(event.target.value)}
          />
          <Button type="submit" size="xs">
            {DESK.addPartner}
          </Button>
        </label>
        {error ? (
          <p role="alert" className="text-error">
            {error}
          </p>
        ) : null}
      </form>
    </details>
  );
}
