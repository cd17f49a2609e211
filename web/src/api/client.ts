/** Calls to the API, and the one kind of error they end in. */
import createClient from "openapi-fetch";
import type { Full } from "./full";
import type { components, paths } from "./schema";
import { text } from "./strings";

const t = text.client;

export type Problem = components["schemas"]["Problem"];
type Schemas = components["schemas"];
/** What the server sends is complete: fields with a default are there too. */
export type Sent<T extends keyof Schemas> = Full<Schemas[T]>;
export type ElementOut = Sent<"ElementOut">;
export type CompOut = Sent<"CompOut">;
export type CameraRow = Sent<"CameraRow">;
export type CompRow = Sent<"CompRow">;
export type DeletedCompRow = Sent<"DeletedCompRow">;
export type DeliveryOut = Sent<"DeliveryOut">;
export type FormatOut = Sent<"FormatOut">;
export type ColourOut = Sent<"ColourOut">;
export type Facts = Sent<"Facts">;
export type Tables = Sent<"TablesOut">;
export type SampleOut = Sent<"SampleOut">;
export type ListedProject = Sent<"ListedProject">;
export type ProjectOut = Sent<"ProjectOut">;
export type SessionOut = Sent<"SessionOut">;

export class ApiProblem extends Error {
  readonly problem: Problem;
  readonly status: number;

  constructor(status: number, problem: Problem) {
    super(problem.message);
    this.status = status;
    this.problem = problem;
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

export const client = createClient<paths>({ baseUrl: "", credentials: "same-origin" });
client.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

/** What was wrong with an answer that is no success. */
export function problemOf(status: number, body: unknown): ApiProblem {
  const row = (typeof body === "object" && body !== null ? body : {}) as Partial<Problem>;
  return new ApiProblem(status, {
    code: row.code ?? "unknown",
    message: row.message ?? t.theServerAnswered(status),
    advice: row.advice ?? t.tryAgainIfItStays,
    where: row.where ?? "",
  });
}

/** A picture that is answered to a body: an address of the page's own, to be given back when it is not shown any more. */
export async function takePicture(address: string, body: unknown, signal?: AbortSignal): Promise<string> {
  const answer = await fetch(address, {
    method: "POST",
    credentials: "same-origin",
    headers: { "Content-Type": "application/json", "X-CSRFToken": csrfToken() },
    body: JSON.stringify(body),
    ...(signal ? { signal } : {}),
  });
  if (!answer.ok) throw problemOf(answer.status, await answer.json().catch(() => null));
  return URL.createObjectURL(await answer.blob());
}

interface Answer {
  data?: unknown;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws ApiProblem for every other outcome, a dropped line included. */
export async function take<T>(call: Promise<Answer>): Promise<T> {
  let answer: Answer;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new ApiProblem(0, {
      code: "no-answer",
      message: t.theServerDoesNotAnswer,
      advice: t.nothingWasLostCheckThat,
      where: "",
    });
  }
  if (!answer.response.ok) throw problemOf(answer.response.status, answer.error);
  return answer.data as T;
}

export function asProblem(error: unknown): Problem {
  if (error instanceof ApiProblem) return error.problem;
  const message = error instanceof Error ? error.message : String(error);
  return { code: "unknown", message, advice: "", where: "" };
}
