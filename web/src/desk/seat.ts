/** Who sits at a desk, and what they may do there: a student with an exercise that is set, or a teacher with any. */

import type { DeskChecked, DeskTask, PlayView, ProblemReport, SceneView, TrialView } from "../api/client";
import {
  askStep,
  checkAsTeacher,
  checkText,
  checkedAgain,
  foretell,
  readAsTeacher,
  trialOfChecked,
  trialOfText,
} from "../api/desk";

export interface Seat {
  /** What tells it from other seats. */
  id: string;
  version: number;
  brief: string;
  starter: string;
  straight: boolean;
  scene: SceneView;
  variables: TrialView["variables"];
  scenarios: DeskTask["scenarios"];
  hidden: number;
  looks: string;
  live: string;
  /** Whether games are kept as trials, beside the reference. */
  keeps: boolean;
  /** The socket is there from the beginning: a file may change behind it. */
  eager: boolean;
  check: (source: string) => Promise<DeskChecked>;
  /** The same again, with what was found by now. */
  again: (checked: DeskChecked) => Promise<DeskChecked>;
  trial: (checked: DeskChecked, scenario: number, show: readonly string[]) => Promise<TrialView>;
  foretell: ((checked: DeskChecked, scenario: number, guesses: Record<string, string>) => Promise<unknown>) | null;
  askStep: ((checked: DeskChecked, index: number, step: number) => Promise<DeskChecked>) | null;
  /** What of a text cannot be read; a student's is read when it is kept. */
  read: ((source: string) => Promise<ProblemReport[]>) | null;
}

export function studentSeat(task: DeskTask): Seat {
  const { id, version_id: version, brief, starter, straight, scene, variables, scenarios, hidden } = task;
  return {
    ...{ id: `round ${id}`, version, brief, starter, straight, scene, variables, scenarios, hidden },
    looks: `/api/desk/rounds/${id}/looks`,
    live: `/api/desk/rounds/${id}/live`,
    keeps: false,
    eager: false,
    check: (source) => checkText(id, source),
    again: (checked) => checkedAgain(checked.id),
    trial: (checked, scenario, show) => trialOfChecked(checked.id, scenario, show),
    foretell: (checked, scenario, guesses) => foretell(checked.id, scenario, guesses),
    askStep: (checked, index, step) => askStep(checked.id, index, step),
    read: null,
  };
}

export function teacherSeat(play: PlayView): Seat {
  const { version_id: version, brief, starter, straight, scene, variables, scenarios } = play;
  return {
    ...{ id: `exercise ${version}`, version, brief, starter, straight, scene, variables, scenarios, hidden: 0 },
    looks: `/api/exercises/${version}/looks`,
    live: `/api/exercises/${version}/live`,
    keeps: true,
    eager: true,
    check: (source) => checkAsTeacher(version, source, false),
    again: async (checked) => {
      const whole = await checkAsTeacher(version, checked.source, true);
      return { ...whole, scenarios: checked.scenarios };
    },
    trial: (checked, scenario, show) => trialOfText(version, checked.source, scenario, show),
    foretell: null,
    askStep: null,
    read: (source) => readAsTeacher(version, source),
  };
}
