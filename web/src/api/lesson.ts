/** What the lesson and the ledger ask the server for. */

import { queryOptions } from "@tanstack/react-query";

import { ask } from "./client";

export interface TimesOf {
  opens_at: string | null;
  due_at: string | null;
  closes_at: string | null;
  shows_hidden: boolean;
  watches: boolean;
}

export const setTimes = (round: number, times: TimesOf) =>
  ask("put", "/api/rounds/{round_id}/times", { params: { path: { round_id: round } }, body: times });

export const setStanding = (round: number, student: number, excused: boolean, due: string | null) =>
  ask("put", "/api/rounds/{round_id}/students/{student_id}/standing", {
    params: { path: { round_id: round, student_id: student } },
    body: { excused, due_at: due },
  });

export type Level = "supported" | "core" | "stretch";

export const setLevel = (round: number, student: number, level: Level | null) =>
  ask("put", "/api/rounds/{round_id}/students/{student_id}/level", {
    params: { path: { round_id: round, student_id: student } },
    body: { level },
  });

export const giveBack = (round: number, student: number | null, back = true) =>
  ask("post", "/api/rounds/{round_id}/give-back", {
    params: { path: { round_id: round } },
    body: { student_id: student, back },
  });

export const copyRound = (round: number, classId: number) =>
  ask("post", "/api/rounds/{round_id}/copy", { params: { path: { round_id: round } }, body: { class_id: classId } });

/** Makes a short exercise from the slip of a group, for those who have it. */
export const makeFollowUp = (round: number, key: string) =>
  ask("post", "/api/rounds/{round_id}/follow-ups", { params: { path: { round_id: round } }, body: { key } });

export const workQuery = (round: number, often: number | false) =>
  queryOptions({
    queryKey: ["work", round],
    queryFn: () => ask("get", "/api/rounds/{round_id}/work", { params: { path: { round_id: round } } }),
    refetchInterval: often,
  });

export const deskNow = (round: number, student: number) =>
  ask("get", "/api/rounds/{round_id}/students/{student_id}/desk", {
    params: { path: { round_id: round, student_id: student } },
  });

export const sheetsQuery = (round: number) =>
  queryOptions({
    queryKey: ["sheets", round],
    queryFn: () => ask("get", "/api/rounds/{round_id}/sheets", { params: { path: { round_id: round } } }),
  });

export const closerQuery = (round: number) =>
  queryOptions({
    queryKey: ["closer", round],
    queryFn: () => ask("get", "/api/rounds/{round_id}/closer", { params: { path: { round_id: round } } }),
  });

export const ledgerQuery = (classId: number) =>
  queryOptions({
    queryKey: ["ledger", classId],
    queryFn: () => ask("get", "/api/classes/{class_id}/ledger", { params: { path: { class_id: classId } } }),
  });

/** A run for a sheet: without the reference. */
export const sheetTrialQuery = (submission: number, scenario: number, student: boolean) =>
  queryOptions({
    queryKey: ["sheet trial", submission, scenario, student],
    queryFn: () =>
      student
        ? ask("get", "/api/desk/submissions/{submission_id}/scenarios/{number}", {
            params: { path: { submission_id: submission, number: scenario } },
          })
        : ask("get", "/api/submissions/{submission_id}/scenarios/{number}", {
            params: { path: { submission_id: submission, number: scenario }, query: { alone: true } },
          }),
    staleTime: Infinity,
  });

export const sendReply = (submission: number, reply: string) =>
  ask("put", "/api/desk/submissions/{submission_id}/reply", {
    params: { path: { submission_id: submission } },
    body: { reply },
  });
