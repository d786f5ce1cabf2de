import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { AsidesView, FindingView, TraceView, TrialView, SubmissionView } from "../../api/client";
import { Asking } from "../../scene/Asking";
import { momentAt } from "../../scene/moment";
import { Scene } from "../../scene/Scene";
import { playSound } from "../../scene/sound";
import { type ShownTrial, shown } from "../../strip/steps";
import { Strip } from "../../strip/Strip";
import { clock, count, FRAMES_PER_SECOND, show } from "../../values";
import { AsScenario, Prediction } from "./Aside";
import { Controls } from "../../watching/Controls";
import { Help } from "./Help";
import { idleLines, lineCounts, linesIn } from "../../watching/lines";
import { nextBroken } from "../../watching/moments";
import { Story } from "./Story";
import { momentsOf, type Tie, valuesAt } from "../../watching/tie";
import { useKeys } from "../../watching/useKeys";
import { usePlayhead } from "../../watching/usePlayhead";
import { Values } from "./Values";
import { WatchedContext } from "./watched";

const ScriptView = lazy(() => import("../../script/ScriptView"));

const NO_FRAMES: readonly number[] = [];

/** The step of help that a teacher sees at first: the line, with the values it saw. */
const POINTER = 2;

export interface Subject {
  source: string;
  label: string;
  /** The try with its findings; a game by hand has none. */
  submission: SubmissionView | null;
}

interface WatchingProps {
  subject: Subject;
  scenario: number;
  trial: TrialView;
}

interface WatchProps extends WatchingProps {
  trial: ShownTrial;
  trace: TraceView;
  asides: AsidesView;
}

/** A trial that can be watched. It opens at the first broken check's moment, if there is one. */
export function Watching({ subject, scenario, trial: given }: WatchingProps) {
  const { submission, source, label } = subject;
  const trial = useMemo(() => shown(given), [given]);
  const { trace, asides } = trial;
  return trace && asides ? (
    <Watch subject={{ submission, source, label }} scenario={scenario} trial={trial} trace={trace} asides={asides} />
  ) : null;
}

function Watch({ subject, scenario, trial, trace, asides }: WatchProps) {
  const { submission, source, label } = subject;
  const findings = useMemo(() => findingsFor(submission, scenario), [submission, scenario]);
  const start = useMemo(() => opening(trial, findings, scenario), [trial, findings, scenario]);
  const [head, dispatch] = usePlayhead(
    trial.last_frame,
    start.frame,
    trial.unit === "step" ? STEPS_PER_SECOND : FRAMES_PER_SECOND,
  );
  const [chosen, setChosen] = useState<number | null>(start.check);
  const [level, setLevel] = useState(POINTER);
  const [index, setIndex] = useState(0);
  const [tie, setTie] = useState<Tie | null>(null);

  const onCheck = useCallback(
    (check: number, frame: number) => {
      setChosen(check);
      const number = trial.checks[check]?.index;
      const about = findings.findIndex((finding) => finding.checks.some(([s, c]) => s === scenario && c === number));
      if (about >= 0) setIndex(about);
      dispatch({ do: "seek", frame });
    },
    [dispatch, findings, scenario, trial],
  );
  const onSeek = useCallback((frame: number) => dispatch({ do: "seek", frame }), [dispatch]);
  useKeys(trial, head, dispatch, {
    broken: () => {
      const next = nextBroken(trial, head.frame, chosen);
      if (next) onCheck(next.check, next.frame);
    },
    words: () => setLevel((before) => (before + 1) % 4),
  });

  const heard = useRef(head.frame);
  useEffect(() => {
    if (head.playing)
      for (const sound of trace.sounds)
        if (sound.frame > heard.current && sound.frame <= head.frame) playSound(sound.name);
    heard.current = head.frame;
  }, [head.frame, head.playing, trace]);
  const bare = trial.scene.pieces.length === 0 && trial.scene.kinds.length === 0;
  const moment = useMemo(() => momentAt(trial.scene, trace, asides, head.frame), [trial, trace, asides, head.frame]);
  const counts = useMemo(() => lineCounts(trace), [trace]);
  const idle = useMemo(() => idleLines(source, counts), [source, counts]);
  const finding = findings[index];
  const marks = useMemo(
    () => ({
      running: linesIn(trace, head.frame),
      suspect: finding?.lines ?? [],
      idle,
      counts,
      tied: tie?.lines ?? [],
      values: valuesAt(trace, finding?.lines ?? [], head.frame, show),
    }),
    [trace, head.frame, finding, idle, counts, tie],
  );
  const onLine = useCallback(
    (line: number | null) =>
      setTie(line !== null && finding?.lines.includes(line) ? { lines: [line], frames: momentsOf(trace, line) } : null),
    [finding, trace],
  );
  const onPin = useCallback(
    (check: number | null) => {
      const index = check === null ? undefined : trial.checks[check]?.index;
      const about = findings.find((each) => each.checks.some(([s, c]) => s === scenario && c === index));
      setTie(
        about && index !== undefined
          ? { lines: about.lines, frames: about.lines.flatMap((line) => momentsOf(trace, line)) }
          : null,
      );
    },
    [findings, scenario, trace, trial],
  );
  const about = useMemo(() => {
    const indices = finding?.checks.filter(([s]) => s === scenario).map(([, index]) => index) ?? [];
    return trial.checks.flatMap((check, number) => (indices.includes(check.index) ? [number] : []));
  }, [finding, scenario, trial]);

  const hands = useMemo(() => ({ onSeek, onCheck, onPin }), [onSeek, onCheck, onPin]);
  const watched = useMemo(
    () => ({ trial, trace, scenario, submission, findings, seek: onSeek, tie: setTie }),
    [trial, trace, scenario, submission, findings, onSeek],
  );
  return (
    <WatchedContext value={watched}>
      <div className="relative grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[minmax(20rem,1fr)_auto] overflow-y-auto">
        <div className="grid min-h-0 grid-cols-[minmax(0,25fr)_minmax(0,33fr)_minmax(0,22fr)] grid-rows-[minmax(0,1fr)]">
          <section aria-label="Script" className="flex min-h-0 flex-col border-r border-base-300 px-3 pt-2">
            <div className="flex justify-between pb-1 text-sm text-neutral">
              <h2>Script</h2>
              <span>bar: how often the line ran</span>
            </div>
            <div className="min-h-0 flex-1">
              <Suspense fallback={<p className="text-neutral">Fetching the script …</p>}>
                <ScriptView
                  text={source}
                  marks={marks}
                  label={label}
                  reveal={tie?.lines[0] ?? finding?.lines[0] ?? null}
                  onLine={onLine}
                />
              </Suspense>
            </div>
          </section>
          <section aria-label="Scene" className="flex min-h-0 flex-col border-r border-base-300 px-4 pt-2">
            <div className="flex items-center justify-between pb-1 text-sm text-neutral">
              <h2>
                {trial.unit === "step"
                  ? stepOf(head.frame, trial.last_frame)
                  : `Scene at ${clock(head.frame)}, frame ${head.frame}`}
              </h2>
              <Controls head={head} dispatch={dispatch} />
            </div>
            <div className="min-h-0 flex-1">
              {bare ? (
                <Story frame={head.frame} />
              ) : (
                <Scene scene={trial.scene} moment={moment} looks={`/api/exercises/${trial.version_id}/looks`} />
              )}
            </div>
            <Asking scene={trial.scene} moment={moment} />
            <Values frame={head.frame} />
          </section>
          <section
            aria-label="What happened"
            className="relative flex min-h-0 flex-col gap-3 overflow-auto px-4 pt-2 pb-3"
          >
            {submission ? (
              <Help
                submission={submission}
                shown={index}
                onShow={setIndex}
                level={level}
                onLevel={setLevel}
                chosen={chosen}
              />
            ) : (
              <p>Played by hand, beside what the reference does with the same inputs.</p>
            )}
            <Prediction />
            {bare ? null : <Story frame={head.frame} />}
            <AsScenario toml={trial.toml} />
          </section>
        </div>
        <div className="border-t border-base-300">
          <Strip
            trial={trial}
            frame={head.frame}
            chosen={chosen}
            tied={tie?.frames ?? NO_FRAMES}
            about={tie ? about : NO_FRAMES}
            hands={hands}
          />
        </div>
      </div>
    </WatchedContext>
  );
}

/** Steps that play in a second: slow enough to read each. */
const STEPS_PER_SECOND = 2;

/** Where a strip by steps stands, as a heading. */
function stepOf(frame: number, last: number): string {
  return frame <= 0 ? `Before the first of ${count(last, "step")}` : `Step ${frame} of ${last}`;
}

/** The findings of a try, those about this scenario first. */
function findingsFor(submission: SubmissionView | null, scenario: number): FindingView[] {
  if (!submission) return [];
  const here = (finding: FindingView) => finding.checks.some(([number]) => number === scenario);
  return [...submission.findings].sort((a, b) => Number(here(b)) - Number(here(a)));
}

/** Where the trial opens: at the evidence of a finding in this scenario, else at a broken check, else at 0. */
function opening(
  trial: ShownTrial,
  findings: readonly FindingView[],
  scenario: number,
): { frame: number; check: number | null } {
  const finding = findings.find((each) => each.checks.some(([number]) => number === scenario));
  const indices = finding?.checks.filter(([number]) => number === scenario).map(([, index]) => index) ?? [];
  const found = trial.checks.findIndex((check) => indices.includes(check.index));
  const check = found < 0 ? null : found;
  if (
    trial.unit === "frame" &&
    finding &&
    finding.scenario === scenario &&
    finding.frame !== null &&
    trial.checks[check ?? -1]?.verdict !== "held"
  )
    return { frame: Math.max(finding.frame, 0), check };
  if (trial.parting) return { frame: Math.max(trial.parting.frame, 0), check };
  const broken = nextBroken(trial, -1, null);
  return broken ? { frame: broken.frame, check: broken.check } : { frame: 0, check: null };
}
