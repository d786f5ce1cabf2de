import { type SyntheticEvent, useState } from "react";

import type { DeskRow } from "../api/client";
import { Button } from "../shell/Button";
import { inWords, Mark } from "../strip/Mark";
import { SmallStrip } from "../strip/SmallStrip";
import type { ShownTrial } from "../strip/steps";
import { clock, foreseen, show } from "../values";
import { DESK } from "../words/desk";

interface RowProps {
  row: DeskRow;
  /** Whether it is the one that is looked at. */
  chosen: boolean;
  /** The pin that is chosen on the strip. */
  check: number | null;
  trial: ShownTrial | null;
  onOpen: () => void;
  /** Whether the script runs from top to bottom, so that seconds say nothing. */
  straight: boolean;
  onForetell: ((guesses: Record<string, string>) => Promise<void>) | null;
}

/** A scenario with its small strip; one that asks for a prediction shows nothing before it has it. */
export function Row({ row, chosen, check, trial, straight, onOpen, onForetell }: RowProps) {
  const verdicts = row.checks.map((each) => each.verdict);
  const words = row.waits ? DESK.expectFirst : inWords(verdicts);
  const about = chosen && check !== null ? trial?.checks[check] : undefined;
  return (
    <div className={chosen ? "border-l-4 border-primary bg-(--plum-tint) pl-2" : ""} data-row={row.number}>
      <button
        type="button"
        className="flex w-full cursor-pointer items-center justify-between gap-3 py-1 text-left disabled:cursor-default"
        aria-pressed={chosen}
        disabled={row.waits}
        onClick={onOpen}
      >
        <span className={chosen ? "font-bold" : ""}>
          {row.name}
          {row.waits ? <span className="block text-neutral">{DESK.expectFirst}</span> : null}
        </span>
        {row.small ? (
          <SmallStrip strip={row.small} label={`${row.name}: ${words}`} />
        ) : (
          <span className="sr-only">{words}</span>
        )}
      </button>
      {row.waits && row.predict && onForetell ? (
        <Expecting predict={row.predict} straight={straight} onSay={onForetell} />
      ) : null}
      {!row.waits && row.predict && Object.keys(row.guesses).length > 0 ? (
        <Expected row={row} trial={chosen ? trial : null} />
      ) : null}
      {chosen ? (
        <ul className="pb-1 text-sm">
          {row.checks.map((each, index) => (
            <li key={index} className="flex items-baseline gap-2">
              <Mark answer={each.verdict} />
              <span>
                <span className="sr-only">{each.verdict}: </span>
                {each.because || <code>{trial?.checks[index]?.expect}</code>}
              </span>
            </li>
          ))}
          {about && about.frame !== null ? (
            <li className="text-neutral">
              {clock(about.frame, trial?.unit)}: <code>{about.expect}</code>
              {Object.entries(about.values).map(([name, value]) => `, ${name} was ${show(value)}`)}
            </li>
          ) : null}
        </ul>
      ) : null}
    </div>
  );
}

interface ExpectingProps {
  predict: NonNullable<DeskRow["predict"]>;
  straight: boolean;
  onSay: (guesses: Record<string, string>) => Promise<void>;
}

/** First what one expects. */
function Expecting({ predict, straight, onSay }: ExpectingProps) {
  const [guesses, setGuesses] = useState<Record<string, string>>({});
  const [error, setError] = useState("");
  const [busy, setBusy] = useState(false);
  const say = async (event: SyntheticEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      await onSay(guesses);
    } catch (failed) {
      setError((failed as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form onSubmit={(event) => void say(event)} className="pb-2 text-sm" data-expecting>
      <p>{straight ? DESK.willBeInTheEnd : DESK.willBe(clock(predict.frame))}</p>
      {predict.names.map((name) => (
        <label key={name} className="mr-3 inline-flex items-baseline gap-2">
          <code>{name}</code>
          <input
            className="input input-xs w-24"
            required
            maxLength={200}
            value={guesses[name] ?? ""}
            onChange={(event) => setGuesses({ ...guesses, [name]: event.target.value })}
          />
        </label>
      ))}
      <Button type="submit" size="xs" className="mt-1" disabled={busy}>
        {DESK.sayIt}
      </Button>
      {error ? (
        <p role="alert" className="text-error">
          {error}
        </p>
      ) : null}
    </form>
  );
}

/** What one expected, beside what it was. */
function Expected({ row, trial }: { row: DeskRow; trial: ShownTrial | null }) {
  const at = row.predict?.frame ?? 0;
  return (
    <p className="pb-1 text-sm text-neutral" data-expected>
      {Object.entries(row.guesses).map(([name, guess]) => (
        <span key={name} className="block">
          <code>{name}</code>: {DESK.you} <strong className="text-base-content">{guess}</strong>
          {trial ? (
            <>
              , {DESK.itWas} <strong className="text-base-content">{foreseen(trial, name, at)}</strong>
            </>
          ) : null}
          , {row.came[name] ? DESK.cameOut : DESK.cameElse}
        </span>
      ))}
      {row.foretold[1] > 0 ? DESK.foretold(row.foretold[0], row.foretold[1]) : null}
    </p>
  );
}
