/** What a desk asks the server for. */

import { queryOptions } from "@tanstack/react-query";

import { ask } from "./client";

export const deskQuery = queryOptions({ queryKey: ["desk"], queryFn: () => ask("get", "/api/desk", {}) });

const WHILE_ASKING = 5000; // milliseconds between looks at one's place in the line

export const deskRoundQuery = (id: number) =>
  queryOptions({
    queryKey: ["desk round", id],
    queryFn: () => ask("get", "/api/desk/rounds/{round_id}", { params: { path: { round_id: id } } }),
    refetchInterval: (query) => (query.state.data?.asking ? WHILE_ASKING : false),
  });

export const deskTryQuery = (id: number) =>
  queryOptions({
    queryKey: ["desk try", id],
    queryFn: () => ask("get", "/api/desk/submissions/{submission_id}", { params: { path: { submission_id: id } } }),
  });

export const keepText = (round: number, source: string, at: number) =>
  ask("put", "/api/desk/rounds/{round_id}/text", { params: { path: { round_id: round } }, body: { source, at } });

export const checkText = (round: number, source: string) =>
  ask("post", "/api/desk/rounds/{round_id}/check", { params: { path: { round_id: round } }, body: { source } });

export const checkedAgain = (id: number) =>
  ask("get", "/api/desk/checked/{checked_id}", { params: { path: { checked_id: id } } });

export const trialOfChecked = (id: number, scenario: number, show: readonly string[]) =>
  ask("get", "/api/desk/checked/{checked_id}/scenarios/{number}", {
    params: { path: { checked_id: id, number: scenario }, query: { show: show.join(",") } },
  });

export const foretell = (id: number, scenario: number, guesses: Record<string, string>) =>
  ask("put", "/api/desk/checked/{checked_id}/scenarios/{number}/prediction", {
    params: { path: { checked_id: id, number: scenario } },
    body: { guesses },
  });

export const askStep = (id: number, index: number, step: number) =>
  ask("post", "/api/desk/checked/{checked_id}/help", { params: { path: { checked_id: id } }, body: { index, step } });

export const handInText = (round: number, source: string) =>
  ask("post", "/api/desk/rounds/{round_id}/hand-in", { params: { path: { round_id: round } }, body: { source } });

export const askForHelp = (round: number, wants: boolean) =>
  ask("put", "/api/desk/rounds/{round_id}/asking", { params: { path: { round_id: round } }, body: { wants } });

export const workTogether = (round: number, card: string) =>
  ask("put", "/api/desk/rounds/{round_id}/partner", { params: { path: { round_id: round } }, body: { card } });

export const workAlone = (round: number) =>
  ask("delete", "/api/desk/rounds/{round_id}/partner", { params: { path: { round_id: round } } });

export const checkAsTeacher = (version: number, source: string, explained: boolean) =>
  ask("post", "/api/exercises/{version_id}/check", {
    params: { path: { version_id: version } },
    body: { source, explained },
  });

export const readAsTeacher = (version: number, source: string) =>
  ask("post", "/api/exercises/{version_id}/read", { params: { path: { version_id: version } }, body: { source } });

export const trialOfText = (version: number, source: string, scenario: number, show: readonly string[]) =>
  ask("post", "/api/exercises/{version_id}/trial", {
    params: { path: { version_id: version } },
    body: { source, scenario, show: [...show] },
  });
