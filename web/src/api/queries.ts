/** What the screens ask for, each by its name. */

import { queryOptions } from "@tanstack/react-query";

import { type BenchView, dataOf, type HandedIn, type KeptView, type PlayView, type RoundView, sent, server, type SheetView, type TrialView, type TriedChange, type SubmissionView } from "./client";

const WHILE_MARKING = 400; // milliseconds between looks at a round that is being marked

export const benchQuery = queryOptions({
  queryKey: ["bench"],
  queryFn: () => dataOf<BenchView>(server.GET("/api/bench")),
  refetchInterval: (query) =>
    query.state.data?.rounds.some((round) => round.marked < round.scripts) ? WHILE_MARKING : false,
});

export const roundQuery = (round: number) =>
  queryOptions({
    queryKey: ["round", round],
    queryFn: () => dataOf<RoundView>(server.GET("/api/rounds/{round_id}", { params: { path: { round_id: round } } })),
    refetchInterval: (query) => {
      const data = query.state.data;
      return data && data.done < data.students.length ? WHILE_MARKING : false;
    },
  });

export const submissionQuery = (id: number) =>
  queryOptions({
    queryKey: ["try", id],
    queryFn: () => dataOf<SubmissionView>(server.GET("/api/submissions/{submission_id}", { params: { path: { submission_id: id } } })),
    refetchInterval: (query) => (query.state.data?.status === "waiting" ? WHILE_MARKING : false),
  });

/** With `earlier`, the student's try before this one is played in the reference's place. */
export const trialQuery = (id: number, scenario: number, trial: number | "shortest", earlier = false) =>
  queryOptions({
    queryKey: ["trial", id, scenario, trial, earlier],
    queryFn: () =>
      dataOf<TrialView>(
        server.GET("/api/submissions/{submission_id}/scenarios/{number}", {
          params: {
            path: { submission_id: id, number: scenario },
            query: { ...(trial === "shortest" ? { shortest: true } : { trial }), ...(earlier ? { earlier } : {}) },
          },
        }),
      ),
    staleTime: Infinity, // the same input gives the same trace
  });

export const playQuery = (version: number, submissionId: number | null) =>
  queryOptions({
    queryKey: ["play", version, submissionId],
    queryFn: () =>
      dataOf<PlayView>(
        server.GET("/api/exercises/{version}/play", {
          params: { path: { version_id: version }, query: submissionId === null ? {} : { submission_id: submissionId } },
        }),
      ),
    staleTime: Infinity, // a script that is being written must not be replaced
  });

export const keptQuery = (id: number) =>
  queryOptions({
    queryKey: ["kept", id],
    queryFn: () => dataOf<KeptView>(server.GET("/api/plays/{number}", { params: { path: { number: id } } })),
  });

export const keptTrialQuery = (id: number) =>
  queryOptions({
    queryKey: ["kept trial", id],
    queryFn: () => dataOf<TrialView>(server.GET("/api/plays/{number}/trial", { params: { path: { number: id } } })),
    staleTime: Infinity,
  });

/** Sends files as a form; `answers` say whose the doubtful ones are. */
export async function handIn(round: number, files: readonly File[], answers: Record<string, string>): Promise<HandedIn> {
  const form = new FormData();
  for (const file of files) form.append("files", file, file.name);
  form.append("answers", JSON.stringify(answers));
  return sent<HandedIn>(`/api/rounds/${round}/scripts`, { method: "POST", body: form });
}

export async function addStudents(round: number, file: File): Promise<{ added: number }> {
  const form = new FormData();
  form.append("file", file, file.name);
  return sent<{ added: number }>(`/api/rounds/${round}/students`, { method: "POST", body: form });
}

export const setOwn = (id: number, marks: number | null, comment: string) =>
  sent<null>(`/api/submissions/${id}/own`, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ marks, comment }),
  });

export const sheetQuery = (round: number, key: string) =>
  queryOptions({
    queryKey: ["sheet", round, key],
    queryFn: () => dataOf<SheetView>(server.GET("/api/rounds/{round_id}/sheet", { params: { path: { round_id: round }, query: { key } } })),
  });

/** Withdraws a finding or puts it back: for the student of a try, or for everybody where there is none. */
export const setWithdrawn = (round: number, key: string, submissionId: number | null, withdrawn: boolean) =>
  sent<null>(`/api/rounds/${round}/withdrawn`, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ key, submission_id: submissionId, withdrawn }),
  });

/** Marks a script again with the fix of one of its findings. */
export const tryChange = (id: number, place: number) =>
  dataOf<TriedChange>(server.POST("/api/submissions/{submission_id}/findings/{place}/change", { params: { path: { submission_id: id, place } } }));

/** Keeps what is predicted for a scenario of a try. */
export const setPrediction = (id: number, scenario: number, guesses: Record<string, string>) =>
  sent<null>(`/api/submissions/${id}/scenarios/${scenario}/prediction`, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ guesses }),
  });

export const openRound = (version: number, className: string) =>
  dataOf<{ id: number }>(server.POST("/api/rounds", { body: { version, class_name: className } }));

export const renewRound = (round: number) =>
  dataOf<unknown>(server.POST("/api/rounds/{round_id}/renew", { params: { path: { round_id: round } } }));

export const markAgain = (round: number) =>
  dataOf<unknown>(server.POST("/api/rounds/{round_id}/mark", { params: { path: { round_id: round } } }));
