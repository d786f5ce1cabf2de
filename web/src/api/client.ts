/** The server, with the types of its own description. */

import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type BenchView = Schemas["BenchView"];
export type RoundSummary = Schemas["RoundSummary"];
export type RoundView = Schemas["RoundView"];
export type StudentRow = Schemas["StudentRow"];
export type GroupView = Schemas["GroupView"];
export type SheetView = Schemas["SheetView"];
export type TriedChange = Schemas["TriedChange"];
export type SubmissionView = Schemas["SubmissionView"];
export type FindingView = Schemas["FindingView"];
export type TrialView = Schemas["TrialView"];
export type TraceView = Schemas["TraceView"];
export type AsidesView = Schemas["AsidesView"];
export type VerdictView = Schemas["VerdictView"];
export type SceneView = Schemas["SceneView"];
export type HandedIn = Schemas["HandedIn"];
export type PlayView = Schemas["PlayView"];
export type KeptView = Schemas["KeptView"];
export type ExerciseHead = Schemas["ExerciseHead"];
export type ProblemReport = Schemas["ProblemReport"];
export type StopView = Schemas["StopView"];
export type StoryView = Schemas["StoryView"];
export type LiveHeard = Schemas["LiveMessages"]["heard"];
export type LiveSaid = Schemas["LiveMessages"]["said"];
export type LiveNews = Schemas["News"];
export type Answer = VerdictView["verdict"];

export const server = createClient<paths>({ baseUrl: "" });

/** What the server said went wrong, in its own sentence. */
export class ServerError extends Error {}

interface Reply {
  data?: unknown;
  error?: unknown;
  response: Response;
}

/** The data of a reply, in the type that the description gives it; throws a `ServerError` with the
server's sentence. (openapi-fetch widens tuples to lists, so the type is named by the caller.) */
export async function dataOf<Data>(asked: Promise<Reply>): Promise<Data> {
  let reply: Reply;
  try {
    reply = await asked;
  } catch {
    throw new ServerError("The server does not answer. See whether it still runs, then try again.");
  }
  if (reply.data !== undefined) return reply.data as Data;
  const detail = (reply.error as { detail?: unknown } | undefined)?.detail;
  throw new ServerError(typeof detail === "string" ? detail : `The server answered with ${reply.response.status}.`);
}

/** A request that the description has no types for: a form with files. Throws like `dataOf`. */
export async function sent<Data>(path: string, request: RequestInit): Promise<Data> {
  const reply = async (): Promise<Reply> => {
    const response = await fetch(path, request);
    const body: unknown = response.status === 204 ? null : await response.json().catch(() => undefined);
    return response.ok ? { data: body ?? null, response } : { error: body, response };
  };
  return dataOf<Data>(reply());
}
