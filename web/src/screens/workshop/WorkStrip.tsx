import { useMemo, useState } from "react";

import type { NoticeView, TrialView } from "../../api/client";
import { Strip, type StripHands } from "../../strip/Strip";
import { shown } from "../../strip/steps";
import { clock, show, valueAt } from "../../values";
import { RECORD, STRIP } from "../../words/workshop";
import { Choice, Word } from "./Fields";
import { type Asking, CheckNote, Suggestions } from "./Notes";
import type { Row, Settings } from "./rows";
import { freeTitle, rowsOf, text, tidy } from "./rows";
import type { Hands } from "./useDraft";

interface WorkStripProps {
  id: number;
  at: number;
  trial: TrialView;
  scenario: number;
  settings: Settings | null;
  notices: readonly NoticeView[];
  hands: Hands;
  onScenario: (scenario: number) => void;
  /** Records over from a frame. */
  onRecord: (frame: number) => void;
}

/** The strip of the chosen scenario: checks are made from what is seen on it, and inputs are moved. */
export function WorkStrip({ id, at, trial, scenario, settings, notices, hands, onScenario, onRecord }: WorkStripProps) {
  // it is the reference itself, so there is nothing to draw behind it
  const view = useMemo(() => ({ ...shown(trial), reference: null }), [trial]);
  const [frame, setFrame] = useState(0);
  const [asking, setAsking] = useState<Asking | null>(null);
  const [check, setCheck] = useState<number | null>(null);
  const [begin, setBegin] = useState<number | null>(null);
  const lanes = [...trial.variables.map((each) => each.name), "outcome", "what came", "told"];
  const [lane, setLane] = useState(lanes[0] ?? "outcome");
  const straight = view.unit === "step";
  const ask = (what: string, first: number, last: number) => {
    setCheck(null);
    setLane(lanes.includes(what) ? what : "what came");
    // most of what a straight script does happens in one moment: what can be asked there is how it ends
    setAsking(straight ? { what, first: trial.last_frame, last: trial.last_frame } : { what, first, last });
  };
  /** What must be so at the frame, or from where it was said to begin up to there. */
  const askHere = () => {
    ask(lane, Math.min(begin ?? frame, frame), Math.max(begin ?? frame, frame));
    setBegin(null);
  };
  const stripHands: StripHands = {
    onSeek: (to) => setFrame(Math.min(Math.max(to, 0), view.last_frame)),
    onCheck: (index) => {
      setAsking(null);
      setCheck(view.checks[index]?.index ?? null);
    },
    onPin: () => undefined,
    onLane: ask,
    onInput: straight
      ? undefined
      : (index, from, up) => {
          const given = trial.inputs[index];
          const rows = rowsOf(settings, "input", scenario);
          const place = given ? rows.findIndex((row) => isOf(row, given)) : -1;
          if (place < 0 || !given) return;
          const keys: Record<string, unknown> = { at: tidy(from / 30) };
          if (given.kind === "hold") keys["for"] = tidy(Math.max(up - from, 1) / 30);
          void hands.change({ do: "change", table: "input", index: place, scenario, keys });
        },
  };
  const onKey = (event: React.KeyboardEvent) => {
    const far = event.shiftKey ? 15 : 1;
    const to = { ArrowLeft: frame - far, ArrowRight: frame + far, Home: 0, End: view.last_frame }[event.key];
    if (to !== undefined && (event.target as Element).closest("[data-cursor]")) {
      event.preventDefault();
      stripHands.onSeek(to);
    }
    if (event.key === "Enter" && (event.target as Element).closest("[data-cursor]")) askHere();
    if (event.key === "Escape") {
      setAsking(null);
      setCheck(null);
    }
  };
  const said = notices.find((each) => each.table === "check" && each.index === check && each.scenario === scenario);
  return (
    // Keys go to what has the focus on the strip.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions
    <div className="relative h-full min-h-0 border-t border-base-300" onKeyDown={onKey} data-work-strip>
      <div className="h-full overflow-auto">
        <div className="flex items-baseline gap-4 px-4 pt-1 text-sm">
          <span className="text-neutral">{STRIP.hint}</span>
          <span className="ml-auto flex items-baseline gap-3">
            <Choice
              label={straight ? STRIP.aboutEnd : STRIP.about(clock(frame))}
              value={lane}
              options={lanes.map((value) => ({ value, words: value }))}
              onSay={setLane}
            />
            {straight ? null : (
              <Word onClick={() => setBegin(begin === null ? frame : null)}>
                {begin === null ? STRIP.along : STRIP.notAlong(clock(begin))}
              </Word>
            )}
            <Word onClick={askHere}>{STRIP.ask}</Word>
            {straight ? null : (
              <Word
                onClick={() => {
                  const rows = rowsOf(settings, "scenario");
                  const row = { name: freeTitle(rows, STRIP.fromHere(clock(frame))), arrange: arranged(trial, frame) };
                  void hands
                    .change({ do: "add", table: "scenario", row })
                    .then((done) => done && onScenario(rows.length));
                }}
              >
                {STRIP.beginsHere}
              </Word>
            )}
            {straight || rowsOf(settings, "scenario")[scenario]?.["wild"] !== undefined ? null : (
              <Word onClick={() => onRecord(frame)}>{RECORD.over}</Word>
            )}
          </span>
        </div>
        <Strip trial={view} frame={frame} chosen={pinOf(view, check)} hands={stripHands} />
      </div>
      {asking ? (
        <Suggestions
          id={id}
          at={at}
          scenario={scenario}
          asking={asking}
          settings={settings}
          straight={straight}
          hands={hands}
          onDone={(made) => {
            setAsking(null);
            setCheck(made);
          }}
        />
      ) : check !== null ? (
        <CheckNote
          key={check}
          settings={settings}
          scenario={scenario}
          index={check}
          said={said?.text ?? null}
          hands={hands}
          onDone={() => setCheck(null)}
        />
      ) : null}
    </div>
  );
}

function pinOf(trial: TrialView, check: number | null): number | null {
  const place = trial.checks.findIndex((each) => each.index === check);
  return place < 0 ? null : place;
}

/** Whether a row of the exercise is the input that a trial was given. */
function isOf(row: Row, given: TrialView["inputs"][number]): boolean {
  const at = row["at"];
  return (
    typeof at === "number" &&
    Math.round(at * 30) === given.frame &&
    row[given.kind] !== undefined &&
    (given.kind === "click" || given.kind === "set" || text(row, given.kind) === given.what)
  );
}

/** What is so in a frame, as lines that put it in place: the variables, and where the pieces stand that have moved. */
function arranged(trial: TrialView, frame: number): string[] {
  const lines: string[] = [];
  for (const { name } of trial.variables) {
    const value = valueAt(trial.samples[name], frame);
    if (typeof value === "number" || typeof value === "boolean") lines.push(`${name} = ${show(value)}`);
    else if (typeof value === "string") lines.push(`${name} = ${JSON.stringify(value)}`);
  }
  const known = new Set(trial.scene.pieces.map((piece) => piece.name));
  for (const [name, track] of Object.entries(trial.trace?.pieces ?? {})) {
    if (!known.has(name)) continue;
    if (valueAt(track["removed"], frame) === true) {
      lines.push(`${name}.removed = True`);
      continue;
    }
    for (const axis of ["x", "y"]) {
      const now = valueAt(track[axis], frame);
      if (typeof now === "number" && now !== valueAt(track[axis], 0)) lines.push(`${name}.${axis} = ${tidy(now)}`);
    }
  }
  return lines;
}
