/** The server, with the types of its own description. */

import createClient, { type FetchOptions } from "openapi-fetch";
import type { FilterKeys, PathsWithMethod } from "openapi-typescript-helpers";

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
export type StepView = Schemas["StepView"];
export type EventWords = Schemas["EventWords"];
export type Fault = Schemas["Fault"];
export type DraftHead = Schemas["DraftHead"];
export type DraftView = Schemas["DraftView"];
export type DraftScenario = Schemas["DraftScenario"];
export type NoticeView = Schemas["NoticeView"];
export type ProofView = Schemas["ProofView"];
export type SuggestionView = Schemas["SuggestionView"];
export type Change = Schemas["ChangeDraft"]["change"];
export type Answer = VerdictView["verdict"];
export type Me = Schemas["Me"];
export type ClassView = Schemas["ClassView"];
export type StudentLine = Schemas["StudentLine"];
export type CardSheet = Schemas["CardSheet"];
export type ListRead = Schemas["ListRead"];
export type ListedClass = Schemas["ListedClass"];
export type TeacherLine = Schemas["TeacherLine"];
export type MarkerLine = Schemas["MarkerLine"];
export type DeskTry = Schemas["DeskTry"];
export type DeskFinding = Schemas["DeskFinding"];
export type FeedbackSheet = Schemas["FeedbackSheet"];
export type HandedInFinding = Schemas["HandedInFinding"];
export type WorkView = Schemas["WorkView"];
export type AtWork = Schemas["AtWork"];
export type DeskNow = Schemas["DeskNow"];
export type CloserView = Schemas["CloserView"];
export type LedgerView = Schemas["LedgerView"];
export type DeskTask = Schemas["DeskTask"];
export type DeskText = Schemas["DeskText"];
export type DeskChecked = Schemas["DeskChecked"];
export type DeskRow = Schemas["DeskRow"];
export type CheckedTry = Schemas["CheckedTry"];
export type SmallStripView = Schemas["SmallStrip"];

type Method = "get" | "post" | "put" | "delete";
type Json<Answered> = Answered extends { content: { "application/json": infer Data } } ? Data : never;

/** What a path answers when all goes well; nothing (`null`) where its answer has no content. */
export type Answered<Path extends keyof paths, Way extends Method> = paths[Path][Way] extends { responses: infer Found }
  ? Found extends { 204: unknown }
    ? null
    : Json<Found[keyof Found & (200 | 201 | 202)]>
  : never;

const server = createClient<paths>({ baseUrl: "" });

const MOST_SEEN = 20;

/** What was answered last at an address that tells its state, in this page's memory only. */
const seen = new Map<string, { tag: string; body: string }>();

/** Says what is known of an address already, and gives it where the server says that it is as it was. */
server.use({
  onRequest({ request }) {
    const known = request.method === "GET" ? seen.get(request.url) : undefined;
    if (known) request.headers.set("if-none-match", known.tag);
    return request;
  },
  async onResponse({ request, response }) {
    const tag = response.headers.get("etag");
    const known = seen.get(request.url);
    if (response.status === 304 && known)
      return new Response(known.body, { status: 200, headers: { "content-type": "application/json" } });
    if (request.method === "GET" && response.ok && tag && request.url.includes("/api/")) {
      seen.delete(request.url);
      seen.set(request.url, { tag, body: await response.clone().text() });
      const [oldest] = seen.keys();
      if (seen.size > MOST_SEEN && oldest !== undefined) seen.delete(oldest);
    }
    return response;
  },
});

/** What the server said went wrong, in its own sentence. */
export class ServerError extends Error {
  constructor(
    words: string,
    /** The status of the answer; 0 where there was none. */
    readonly status: number,
    /** Whether it is only that the server or its records cannot be reached just now. */
    readonly away = false,
    /** All that the answer said. */
    readonly body: unknown = null,
  ) {
    super(words);
  }
}

/** Asks a path of the server's description; gives what it answers, or throws a `ServerError` with its sentence. */
export async function ask<Way extends Method, Path extends PathsWithMethod<paths, Way>>(
  way: Way,
  path: Path,
  request: FetchOptions<FilterKeys<paths[Path], Way>>,
): Promise<Answered<Path, Way>> {
  let reply: { data?: unknown; error?: unknown; response: Response };
  try {
    // The description has the types of a request; that a method and its path belong together is said above.
    reply = await (server.request as (way: Method, path: string, request: unknown) => Promise<typeof reply>)(
      way,
      path,
      request,
    );
  } catch {
    throw new ServerError("The server does not answer just now. This page goes on by itself once it does.", 0, true);
  }
  if (reply.response.ok) return (reply.data ?? null) as Answered<Path, Way>;
  const detail = (reply.error as { detail?: unknown } | undefined)?.detail;
  const { status, headers } = reply.response;
  const away = status === 503 && headers.has("retry-after");
  throw new ServerError(
    typeof detail === "string" ? detail : `The server answered with ${status}.`,
    status,
    away,
    reply.error,
  );
}

/** The body of a request that sends files, as a form; openapi-fetch would send JSON. */
export function asForm(fields: Readonly<Record<string, string | readonly File[] | File>>) {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) {
    if (typeof value === "string") form.append(name, value);
    else for (const file of value instanceof File ? [value] : value) form.append(name, file, file.name);
  }
  return { body: {} as never, bodySerializer: () => form };
}
