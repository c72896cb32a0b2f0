import { beforeEach, expect, test, vi } from "vitest";
import { inBackground } from "@/api/background";
import { Problem } from "@/api/client";

type Query = { queryKey: unknown[]; queryFn: (context: unknown) => Promise<unknown> };
type Ask = (...values: unknown[]) => unknown;

const modules = import.meta.glob<Record<string, unknown>>(["./*.ts", "!./*.test.ts"], { eager: true });
const rooms = Object.entries(modules).filter(([name]) => !/keys|changes|heard|lanes|auth|account/.test(name));
const exported = rooms.flatMap(([, module]) => Object.entries(module));
const queries = exported.flatMap(([name, value]) =>
  name.endsWith("Queries")
    ? Object.entries(value as Record<string, Ask>).map(([of, ask]) => ({ name: `${name}.${of}`, ask }))
    : [],
);
const mutations = exported.flatMap(([name, value]) =>
  typeof value === "function" ? [{ name, ask: value as Ask }] : [],
);
/** What anything may be asked with; ids are 7, 8, 9. */
const VALUES = ["garden", 7, 8, 9, {}, {}];
/** Where that is not what it takes. */
const OTHERS: Record<string, unknown[]> = { "calendarQueries.cards": ["garden", { first: "2026-12-02", narrow: {} }] };
/** What is asked for within another of these. */
const WITHIN = ["fetchPiece"];
let asked: Request[] = [];
const address = (request: Request) => new URL(request.url).pathname;

/** What the client takes hold of as it is loaded: the page's cookie and its line to the server. */
const page = vi.hoisted(() => {
  const line = { answer: async (_: Request): Promise<Response> => new Response() };
  const { Request } = globalThis;
  Object.assign(globalThis, {
    document: { cookie: "csrftoken=token" },
    fetch: (request: Request) => line.answer(request),
    // Node's own takes no address without a host.
    Request: class extends Request {
      constructor(address: string, init: RequestInit) {
        super(new URL(address, "http://menudo.test"), init);
      }
    },
  });
  return line;
});

beforeEach(() => {
  asked = [];
  page.answer = async (request) => {
    asked.push(request);
    return Response.json({ assets: [], total: 0, tickets: [], marks: [], next: null });
  };
});

test("no two queries are kept under the same key, and a brand's are under the brand", () => {
  const keys = queries.map(({ name, ask }) => ({ name, key: (ask(...VALUES) as Query).queryKey }));
  expect(keys.length).toBeGreaterThan(50);
  expect(new Set(keys.map(({ key }) => JSON.stringify(key))).size).toBe(keys.length);
  for (const { name, ask } of queries) {
    const here = JSON.stringify((ask(...VALUES) as Query).queryKey);
    const elsewhere = JSON.stringify((ask("bakery", ...VALUES.slice(1)) as Query).queryKey);
    if (ask.length) expect(here, name).not.toBe(elsewhere);
  }
});

test("each query asks the API once, at an address that is whole", async () => {
  for (const { name, ask } of queries) {
    asked = [];
    await (ask(...(OTHERS[name] ?? VALUES)) as Query).queryFn({ signal: undefined, pageParam: undefined });
    expect(asked.map(address), name).toEqual([expect.stringMatching(/^\/api\/[\w/-]+$/)]);
  }
});

test("what is asked in the background says that it is less urgent, and nothing else does", async () => {
  const strip = queries.find(({ name }) => name === "calendarQueries.strip") as { ask: Ask };
  const ask = () => (strip.ask(...VALUES) as Query).queryFn({});
  await inBackground(ask);
  await ask();
  expect(asked.map((request) => request.headers.get("Priority"))).toEqual(["u=5", null]);
});

test("each mutation does so too, says who asks, and from which revision where that counts", async () => {
  for (const { name, ask } of mutations) {
    if (name.startsWith("upload") || WITHIN.includes(name)) continue;
    asked = [];
    await ask(...VALUES);
    expect(asked.map(address), name).toEqual([expect.stringMatching(/^\/api\/[\w/-]+$/)]);
    const [request] = asked;
    if (request?.method !== "GET") expect(request?.headers.get("X-CSRFToken"), name).toBe("token");
    expect(request?.headers.get("If-Match") ?? '"7"', name).toMatch(/^"[789]"$/);
  }
});

test("what went wrong comes as the server says it, at its field; a dead line says that nothing is lost", async () => {
  const { updatePost } = await import("./posts");
  const fault = { pointer: "/title", detail: "Too long.", code: "long" };
  page.answer = async () => Response.json({ detail: "Not so.", errors: [fault], present: { id: 3 } }, { status: 422 });
  const refused = await updatePost("garden", 7, 8, {} as never).catch((error: unknown) => error);
  expect(refused).toBeInstanceOf(Problem);
  expect([(refused as Problem).message, (refused as Problem).at("/title"), (refused as Problem).at("/text")]).toEqual([
    "Not so.",
    "Too long.",
    undefined,
  ]);
  expect((refused as Problem).present).toEqual({ id: 3 });
  page.answer = async () => Promise.reject(new TypeError("no line"));
  await expect(updatePost("garden", 7, 8, {} as never)).rejects.toThrow("What you typed is still here.");
  page.answer = async () => new Response("<h1>Bad gateway</h1>", { status: 502 });
  await expect(updatePost("garden", 7, 8, {} as never)).rejects.toThrow("The server answered 502.");
});
