import { useState } from "react";

import type { DeskChecked } from "../api/client";
import { Button } from "../shell/Button";
import { InCode } from "../shell/InCode";
import { DESK } from "../words/desk";
import type { Seat } from "./seat";

type Found = NonNullable<DeskChecked["findings"]>[number];

interface FindingProps {
  finding: Found;
  checked: DeskChecked;
  seat: Seat;
  /** Takes the text again, with the step that was asked for. */
  onAsk: (checked: DeskChecked) => void;
  onRead: (index: number | null) => void;
  onMoment: (() => void) | null;
}

/** What was found: a step of help at a time, each of them asked for. */
export function Finding({ finding, checked, seat, onAsk, onRead, onMoment }: FindingProps) {
  const [step, setStep] = useState(finding.step);
  const [error, setError] = useState("");
  const shown = Math.min(step, finding.step);
  const ask = async (wanted: number) => {
    onRead(wanted >= 2 ? finding.index : null);
    if (wanted <= finding.step || !seat.askStep) {
      setStep(Math.min(wanted, finding.step));
      return;
    }
    try {
      onAsk(await seat.askStep(checked, finding.index, wanted));
      setStep(wanted);
      setError("");
    } catch (failed) {
      setError((failed as Error).message);
    }
  };
  return (
    <div className="border-l-4 border-transparent pb-2 pl-2" data-finding={finding.index}>
      {finding.happened.map((sentence) => (
        <p key={sentence}>
          <InCode text={sentence} />
        </p>
      ))}
      <div className="flex flex-wrap items-baseline gap-x-3 text-sm" role="group" aria-label="Steps of help">
        {DESK.steps.map((name, index) => {
          const more = checked.tries_until[index];
          if (more === null || more === undefined) return null;
          const mine = index + 1;
          if (more > 0 && finding.step < mine)
            return (
              <span key={name} className="text-neutral">
                {DESK.stepIn(name, more)}
              </span>
            );
          return (
            <Button
              key={name}
              look="quiet"
              size="xs"
              className="px-0 text-primary aria-pressed:font-bold aria-pressed:text-base-content aria-pressed:underline aria-pressed:underline-offset-4"
              aria-pressed={shown === mine}
              onClick={() => void ask(mine)}
            >
              {name}
            </Button>
          );
        })}
        {onMoment && finding.step > 0 ? (
          <Button look="quiet" size="xs" className="px-0" onClick={onMoment}>
            {DESK.openMoment}
          </Button>
        ) : null}
      </div>
      <div aria-live="polite">
        <Step finding={finding} shown={shown} />
      </div>
      {error ? (
        <p role="alert" className="text-sm text-error">
          {error}
        </p>
      ) : null}
      <p className="text-sm text-neutral">
        {finding.marks_lost > 0 ? DESK.lost(finding.marks_lost) : ""}{" "}
        {finding.step > 0 && !finding.certain ? DESK.likely : ""}
      </p>
    </div>
  );
}

function Step({ finding, shown }: { finding: Found; shown: number }) {
  if (shown <= 0) return null;
  if (shown === 1 || !finding.pointer)
    return (
      <p className="text-lg leading-snug">
        <InCode text={finding.nudge} />
      </p>
    );
  if (shown === 2 || !finding.fix)
    return (
      <>
        {finding.title ? (
          <p className="font-semibold">
            <InCode text={finding.title} />
          </p>
        ) : null}
        <p>
          <InCode text={finding.pointer} />
        </p>
      </>
    );
  return (
    <ul>
      {finding.fix.map((line) => (
        <li key={line.line} className="mono mb-1 border border-base-300 px-2">
          <span className="sr-only">Line {line.line}, before: </span>
          <span className="struck block">{line.before}</span>
          <span className="sr-only">after: </span>
          <span className="inked block">{line.after}</span>
        </li>
      ))}
    </ul>
  );
}
