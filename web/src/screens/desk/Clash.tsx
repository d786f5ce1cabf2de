import { useEffect, useRef } from "react";

import type { DeskText } from "../../api/client";
import { Button } from "../../shell/Button";
import { DESK } from "../../words/desk";

interface ClashProps {
  mine: string;
  other: DeskText;
  onChoose: (mine: boolean) => void;
}

/** Two texts, side by side; nothing goes on before one is chosen. */
export function Clash({ mine, other, onChoose }: ClashProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-labelledby="clash-title"
      onCancel={(event) => event.preventDefault()}
      data-clash
    >
      <div className="modal-box max-h-[90vh] max-w-5xl border border-base-300 bg-base-100">
        <h2 id="clash-title" className="text-lg font-bold">
          {DESK.clash}
        </h2>
        <p className="mb-3">{DESK.clashLong}</p>
        <div className="grid grid-cols-2 gap-4">
          <One title={DESK.mine} text={mine} against={other.source} onTake={() => onChoose(true)} />
          <One title={DESK.theirs} text={other.source} against={mine} onTake={() => onChoose(false)} />
        </div>
      </div>
    </dialog>
  );
}

interface OneProps {
  title: string;
  text: string;
  against: string;
  onTake: () => void;
}

function One({ title, text, against, onTake }: OneProps) {
  const there = new Set(against.split("\n"));
  return (
    <section aria-label={title} className="min-w-0">
      <div className="flex items-baseline justify-between pb-1">
        <h3 className="font-semibold">{title}</h3>
        <Button size="xs" onClick={onTake}>
          {DESK.takeThis}
        </Button>
      </div>
      <ol className="mono max-h-[55vh] overflow-auto border border-base-300 bg-(--sheet) py-2 text-sm">
        {text.split("\n").map((line, index) => (
          <li key={index} className={`px-2 whitespace-pre ${there.has(line) ? "" : "bg-(--plum-tint) font-semibold"}`}>
            {line || " "}
          </li>
        ))}
      </ol>
    </section>
  );
}
