import createClient, { type Middleware } from "openapi-fetch";
import { isInBackground, LESS_URGENT } from "./background";
import type { components, operations, paths } from "./schema.gen";

export type Schemas = components["schemas"];
/** What an operation may be asked with, beside its path. */
export type Query<Name extends keyof operations> = operations[Name]["parameters"]["query"];
type Parts<Name extends keyof operations> = operations[Name] extends {
  requestBody: { content: { "multipart/form-data": infer Body } };
}
  ? Body
  : never;
/** The parts of a multipart body. */
export type Form<Name extends keyof operations> = { [Part in keyof Parts<Name>]: string | File };
export type Post = Schemas["PostOut"];
export type PostIn = Schemas["PostIn"];
export type Delivery = Schemas["DeliveryOut"];
export type Ticket = Schemas["TicketOut"];
export type CalendarWindow = Schemas["WindowOut"];
export type Profile = Schemas["ProfileOut"];
export type Network = Schemas["NetworkOut"];
export type Column = Schemas["ColumnOut"];
export type BenchCheck = Schemas["BenchColumnOut"];
export type Finding = Schemas["FindingOut"];
export type Asset = Schemas["AssetBrief"];
export type ProfileSet = Schemas["SetOut"];
export type Pause = Schemas["PauseOut"];
export type Obstacles = Schemas["ObstaclesOut"];
export type Member = Schemas["MemberOut"];
export type Brand = Schemas["BrandOut"];
export type Me = Schemas["MeOut"];

/** A problem as the server tells it (RFC 9457), with pointers to the fields. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    words: string,
    readonly faults: { pointer: string; detail: string; code: string }[] = [],
    readonly present: unknown = null,
  ) {
    super(words);
  }

  at(pointer: string): string | undefined {
    return this.faults.find((fault) => fault.pointer === pointer)?.detail;
  }
}

function csrf(): string {
  return document.cookie.match(/(?:^|; )(?:__Host-)?csrftoken=([^;]+)/)?.[1] ?? "";
}

/** The token that writes carry. Fetched anew when the cookie is gone, so that a cleared browser is not a dead end. */
export async function writeToken(): Promise<string> {
  if (!csrf()) await fetch("/");
  return csrf();
}

const guard: Middleware = {
  async onRequest({ request }) {
    if (isInBackground()) request.headers.set("Priority", LESS_URGENT);
    if (request.method !== "GET") request.headers.set("X-CSRFToken", await writeToken());
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: "" });
api.use(guard);

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer; throws a Problem for anything else, also when there is no way through to the server. */
export async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch {
    throw new Problem(0, "Menudo can't be reached just now. What you typed is still here.");
  }
  if (answer.response.ok) return answer.data as T;
  throw toProblem(answer.response.status, answer.error);
}

export function toProblem(status: number, body: unknown): Problem {
  const values = (body ?? {}) as { detail?: string; errors?: Problem["faults"]; present?: unknown };
  return new Problem(
    status,
    values.detail ?? `The server answered ${status}.`,
    values.errors ?? [],
    values.present ?? null,
  );
}

export function ifMatch(revision: number): { "If-Match": string } {
  return { "If-Match": `"${revision}"` };
}
