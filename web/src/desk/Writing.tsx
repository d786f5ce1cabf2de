import { lazy, type ReactNode, Suspense, useMemo, useState } from "react";

import type { SceneView } from "../api/client";
import type { LineMarks } from "../script/lineMarks";
import { type Word, wordsOf } from "../script/sheet";
import { Button } from "../shell/Button";
import { DESK } from "../words/desk";
import { SHEET } from "./Language";

const ScriptEditor = lazy(() => import("../script/ScriptEditor"));

interface WritingProps {
  text: string;
  write: (text: string) => void;
  marks: LineMarks;
  reveal: number | null;
  keeping: ReactNode;
  texts: readonly { name: string; text: () => Promise<string> }[];
  onCheck: () => void;
  scene: SceneView;
}

/** The script as it is written, with the words that can be used and the texts that can be got back. */
export function Writing({ text, write, marks, reveal, keeping, texts, onCheck, scene }: WritingProps) {
  const [asked, setAsked] = useState(0);
  const [error, setError] = useState("");
  const words = useMemo(() => [...namesOf(scene), ...wordsOf(SHEET)], [scene]);
  const getBack = async (index: number) => {
    try {
      write((await texts[index]?.text()) ?? text);
      setError("");
    } catch (failed) {
      setError((failed as Error).message);
    }
  };
  return (
    <section aria-label={DESK.script} className="flex min-h-0 flex-col border-r border-base-300 px-3 pt-2">
      <div className="flex flex-wrap items-baseline gap-x-2 pb-1 text-sm">
        <h2 className="text-neutral">{DESK.script}</h2>
        <span className="ml-auto flex flex-wrap items-baseline justify-end gap-x-1">
          {texts.length > 0 ? (
            <select
              className="select select-xs w-auto max-w-36 border-transparent bg-transparent text-primary"
              aria-label={DESK.getBack}
              value=""
              onChange={(event) => void getBack(Number(event.target.value))}
            >
              <option value="">{DESK.getBack}</option>
              {texts.map(({ name }, index) => (
                <option key={name} value={index}>
                  {name}
                </option>
              ))}
            </select>
          ) : null}
          <Button look="quiet" size="xs" title={DESK.wordsHelp} onClick={() => setAsked((before) => before + 1)}>
            {DESK.words}
          </Button>
          <Button look="quiet" size="xs" className="text-primary" onClick={onCheck} data-check-button>
            {DESK.check} <span className="text-neutral">{DESK.checkKeys}</span>
          </Button>
        </span>
      </div>
      <div className="min-h-0 flex-1" data-writing>
        <Suspense fallback={<p className="text-neutral">Fetching the editor …</p>}>
          <ScriptEditor text={text} onChange={write} marks={marks} reveal={reveal} words={words} asked={asked} />
        </Suspense>
      </div>
      <div className="min-h-6 py-1 text-sm text-neutral" aria-live="polite" data-keeping>
        {error ? <span className="text-error">{error}</span> : keeping}
      </div>
    </section>
  );
}

/** The names of the exercise: its pieces, its kinds, its facts. */
function namesOf(scene: SceneView): Word[] {
  const kinds = [...new Set(scene.kinds.map(({ kind }) => kind))].filter(
    (kind) => !scene.pieces.some(({ name }) => name === kind),
  );
  return [
    ...scene.pieces.map(({ name, kind }) => ({ text: name, does: name === kind ? "a piece" : `a ${kind}` })),
    ...kinds.map((kind) => ({ text: kind, does: `every ${kind}` })),
    ...scene.facts.map(({ name }) => ({ text: name, does: "a value of the scene" })),
  ];
}
