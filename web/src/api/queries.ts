/** What the screens ask for, each by its name. */

import { queryOptions } from "@tanstack/react-query";

import { ask, asForm, type Change } from "./client";

const WHILE_MARKING = 400; // milliseconds between looks at a round that is being marked

export const benchQuery = queryOptions({
  queryKey: ["bench"],
  queryFn: () => ask("get", "/api/bench", {}),
  refetchInterval: (query) =>
    query.state.data?.rounds.some((round) => round.marked < round.scripts) ? WHILE_MARKING : false,
});

export const roundQuery = (round: number) =>
  queryOptions({
    queryKey: ["round", round],
    queryFn: () => ask("get", "/api/rounds/{round_id}", { params: { path: { round_id: round } } }),
    refetchInterval: (query) => {
      const data = query.state.data;
      return data && data.done < data.students.length ? WHILE_MARKING : false;
    },
  });

export const submissionQuery = (id: number) =>
  queryOptions({
    queryKey: ["submission", id],
    queryFn: () => ask("get", "/api/submissions/{submission_id}", { params: { path: { submission_id: id } } }),
    refetchInterval: (query) => (query.state.data?.status === "waiting" ? WHILE_MARKING : false),
  });

/** With `earlier`, the student's try before this one is played in the reference's place. */
export const trialQuery = (id: number, scenario: number, trial: number | "shortest", earlier = false) =>
  queryOptions({
    queryKey: ["trial", id, scenario, trial, earlier],
    queryFn: () =>
      ask("get", "/api/submissions/{submission_id}/scenarios/{number}", {
        params: {
          path: { submission_id: id, number: scenario },
          query: { ...(trial === "shortest" ? { shortest: true } : { trial }), ...(earlier ? { earlier } : {}) },
        },
      }),
    staleTime: Infinity, // the same input gives the same trace
  });

export const playQuery = (version: number, submissionId: number | null) =>
  queryOptions({
    queryKey: ["play", version, submissionId],
    queryFn: () =>
      ask("get", "/api/exercises/{version_id}/play", {
        params: { path: { version_id: version }, query: submissionId === null ? {} : { submission_id: submissionId } },
      }),
    staleTime: Infinity, // a script that is being written must not be replaced
  });

export const keptQuery = (id: number) =>
  queryOptions({
    queryKey: ["kept", id],
    queryFn: () => ask("get", "/api/plays/{play_id}", { params: { path: { play_id: id } } }),
  });

export const keptTrialQuery = (id: number) =>
  queryOptions({
    queryKey: ["kept trial", id],
    queryFn: () => ask("get", "/api/plays/{play_id}/trial", { params: { path: { play_id: id } } }),
    staleTime: Infinity,
  });

/** With `work`, the sheet is of what the class checked last at their desks. */
export const sheetQuery = (round: number, key: string, work: boolean) =>
  queryOptions({
    queryKey: ["sheet", round, key, work],
    queryFn: () =>
      ask("get", "/api/rounds/{round_id}/sheet", { params: { path: { round_id: round }, query: { key, work } } }),
  });

/** Sends files as a form; `answers` say whose the doubtful ones are. */
export const handIn = (round: number, files: readonly File[], answers: Readonly<Record<string, string>>) =>
  ask("post", "/api/rounds/{round_id}/scripts", {
    params: { path: { round_id: round } },
    ...asForm({ files, answers: JSON.stringify(answers) }),
  });

export const setOwn = (id: number, marks: number | null, comment: string) =>
  ask("put", "/api/submissions/{submission_id}/own", {
    params: { path: { submission_id: id } },
    body: { marks, comment },
  });

/** Withdraws a finding or puts it back: for the student of a try, or for everybody where there is none. */
export const setWithdrawn = (round: number, key: string, submissionId: number | null, withdrawn: boolean) =>
  ask("put", "/api/rounds/{round_id}/withdrawn", {
    params: { path: { round_id: round } },
    body: { key, submission_id: submissionId, withdrawn },
  });

/** Marks a script again with the fix of one of its findings. */
export const tryChange = (id: number, index: number) =>
  ask("post", "/api/submissions/{submission_id}/findings/{index}/change", {
    params: { path: { submission_id: id, index } },
  });

/** Keeps what is predicted for a scenario of a try. */
export const setPrediction = (id: number, scenario: number, guesses: Readonly<Record<string, string>>) =>
  ask("put", "/api/submissions/{submission_id}/scenarios/{number}/prediction", {
    params: { path: { submission_id: id, number: scenario } },
    body: { guesses },
  });

export const openRound = (version: number, className: string) =>
  ask("post", "/api/rounds", { body: { version_id: version, class_name: className } });

export const renewRound = (round: number) =>
  ask("post", "/api/rounds/{round_id}/renew", { params: { path: { round_id: round } } });

export const markAgain = (round: number) =>
  ask("post", "/api/rounds/{round_id}/mark", { params: { path: { round_id: round } } });

/** Marks one script again: for one that could not be marked. */
export const markOneAgain = (id: number) =>
  ask("post", "/api/submissions/{submission_id}/mark", { params: { path: { submission_id: id } } });

export const draftsQuery = queryOptions({ queryKey: ["drafts"], queryFn: () => ask("get", "/api/drafts", {}) });

export const draftKey = (id: number) => ["draft", id] as const;

/** A draft with one of its scenarios played. */
export const draftQuery = (id: number, scenario: number) =>
  queryOptions({
    queryKey: [...draftKey(id), scenario],
    queryFn: () => ask("get", "/api/drafts/{draft_id}", { params: { path: { draft_id: id }, query: { scenario } } }),
    staleTime: Infinity, // what changes it is this page, or another window, which is told when it changes something
  });

export const beginDraft = (version: number | null, title = "") =>
  ask("post", "/api/drafts", { body: { version_id: version, title } });

/** Brings in an exercise: its files, or its folder zipped. */
export const bringDraft = (files: readonly File[]) => ask("post", "/api/drafts/files", { ...asForm({ files }) });

export const changeDraft = (id: number, at: number, change: Change, scenario: number) =>
  ask("post", "/api/drafts/{draft_id}/changes", { params: { path: { draft_id: id } }, body: { at, change, scenario } });

export const stepDraft = (id: number, at: number, by: -1 | 1, scenario: number) =>
  ask("post", "/api/drafts/{draft_id}/step", { params: { path: { draft_id: id } }, body: { at, by, scenario } });

export const removeDraft = (id: number) =>
  ask("delete", "/api/drafts/{draft_id}", { params: { path: { draft_id: id } } });

export const setForClass = (id: number, className: string) =>
  ask("post", "/api/drafts/{draft_id}/set", { params: { path: { draft_id: id } }, body: { class_name: className } });

/** What is true at a moment of a lane, or along a span of it; `at` is the step of the draft. */
export const suggestionsQuery = (
  id: number,
  at: number,
  asked: { scenario: number; what: string; first: number; last: number },
) =>
  queryOptions({
    queryKey: ["suggestions", id, at, asked],
    queryFn: () =>
      ask("post", "/api/drafts/{draft_id}/suggestions", { params: { path: { draft_id: id } }, body: asked }),
    staleTime: Infinity, // the same draft suggests the same
  });

/** The scenario that plays another one in many ways, not added yet. */
export const waysOf = (id: number, scenario: number, way: "boundary" | "orders" | "wild") =>
  ask("post", "/api/drafts/{draft_id}/ways", { params: { path: { draft_id: id } }, body: { scenario, way } });

const WHILE_PROVING = 800; // milliseconds between looks at a proof that runs

/** The proof of a draft at a step; asking begins it. */
export const proofQuery = (id: number, at: number) =>
  queryOptions({
    queryKey: ["proof", id, at],
    queryFn: () => ask("get", "/api/drafts/{draft_id}/proof", { params: { path: { draft_id: id } } }),
    refetchInterval: (query) =>
      query.state.data?.state === "done" || query.state.data?.state === "not playable" ? false : WHILE_PROVING,
  });
