import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test, vi } from "vitest";
import { ANYTHING, type Change, renew, staleQueries } from "./changes";
import { brandKey, ownKey, type QueryKey } from "./keys";

const ticket = (id: number, post: number) => ({ id, post });
const days = ["2026-11-23", "2026-11-29"].map((date) => ({ date }));
const window = { days, tickets: [ticket(1, 10), ticket(2, 20)] };
const piece = { tickets: [ticket(4, 40)], marks: [], first: "2026-11-23", days: 2, profiles: [6, 7] };
const counted = { days, tickets: [], gathered: { lanes: [], heaps: [] } };
const later = { days: [{ date: "2026-12-28" }, { date: "2027-01-03" }], tickets: [] };
const KEYS: Record<string, [QueryKey, unknown]> = {
  window: [brandKey("calendar", "garden", "2026-11-23", 7, {}), window],
  later: [brandKey("calendar", "garden", "2026-12-28", 7, {}), later],
  tray: [brandKey("tray", "garden", {}), { drafts: [{ post: 30 }], total: 1 }],
  strip: [brandKey("strip", "garden"), {}],
  spacing: [brandKey("calendar", "garden", "spacing", "today", 7), []],
  post10: [brandKey("posts", "garden", 10), {}],
  history10: [brandKey("posts", "garden", 10, "history"), []],
  post20: [brandKey("posts", "garden", 20), {}],
  delivery1: [brandKey("deliveries", "garden", 1), {}],
  talk10: [brandKey("talk", "garden", 10), {}],
  profiles: [brandKey("profiles", "garden"), []],
  counts: [brandKey("profile-counts", "garden"), []],
  relays: [brandKey("relays", "garden", "board"), []],
  elsewhere: [brandKey("calendar", "bakery", "2026-11-23", 7, {}), window],
  check: [brandKey("check", "garden", "{}"), []],
  assigned: [ownKey("assigned"), {}],
  me: [ownKey("me"), {}],
};

/** The names of what a change of the garden's makes old. */
function old(...changes: Change[]): string[] {
  const queries = new QueryClient();
  for (const [key, data] of Object.values(KEYS)) queries.setQueryData(key, data);
  const keys = [...staleQueries(queries, "garden", changes)].map((query) => JSON.stringify(query.queryKey));
  return Object.keys(KEYS).filter((name) => keys.includes(JSON.stringify(KEYS[name]?.[0])));
}

test("a delivery that moved makes itself, its post and the windows that show it old, and no other post or window", () => {
  expect(old({ kind: "delivery", id: 1, post: 10, at: "2026-11-27T09:00:00+00:00" })).toEqual([
    "window",
    "strip",
    "spacing",
    "post10",
    "history10",
    "delivery1",
    "counts",
    "assigned",
  ]);
});

test("the window that it comes to is old, at whatever hour of the day in the brand's zone", () => {
  const to = (at: string) => old({ kind: "delivery", id: 9, post: 90, at }).filter((name) => KEYS[name]?.[1] === later);
  expect(to("2026-12-27T12:00:00+00:00")).toEqual(["later"]);
  expect(to("2027-01-04T11:59:00+00:00")).toEqual(["later"]);
  expect(to("2026-12-20T12:00:00+00:00")).toEqual([]);
  expect(to("2027-01-06T12:00:00+00:00")).toEqual([]);
});

test("of a window that only counts, whatever changes may have been in it; a piece of it shows what it has or gets", () => {
  const queries = new QueryClient();
  const keys = { counted: brandKey("calendar", "garden", "a"), piece: brandKey("calendar", "garden", "cards", "b") };
  queries.setQueryData(keys.counted, counted);
  queries.setQueryData(keys.piece, piece);
  const old = (id: number, post: number, profile: number, at: string | null) =>
    [...staleQueries(queries, "garden", [{ kind: "delivery", id, post, profile, at }])].map(
      (query) => query.queryKey[2],
    );
  expect(old(4, 40, 7, "2027-06-01T09:00:00+00:00")).toEqual(["a", "cards"]);
  expect(old(9, 90, 7, "2026-11-24T09:00:00+00:00")).toEqual(["a", "cards"]);
  expect(old(9, 90, 7, "2026-11-28T09:00:00+00:00")).toEqual(["a"]);
  expect(old(9, 90, 7, null)).toEqual(["a"]);
  // Another profile's alone, and another delivery of a post that it has.
  expect(old(9, 90, 8, "2026-11-24T09:00:00+00:00")).toEqual(["a"]);
  expect(old(5, 40, 8, "2026-11-24T09:00:00+00:00")).toEqual(["a", "cards"]);
  const oldBy = (id: number) =>
    [...staleQueries(queries, "garden", [{ kind: "post", id }])].map((query) => query.queryKey[2]);
  expect([oldBy(40), oldBy(90), oldBy(0)]).toEqual([["cards"], [], ["a", "cards"]]);
});

test("the tray is old by what lies in it or comes to it, and a draft makes nothing old that shows what has a date", () => {
  expect(old({ kind: "delivery", id: 3, post: 30, at: "2027-06-01T09:00:00+00:00" })).toContain("tray");
  expect(old({ kind: "delivery", id: 1, post: 10, at: null })).toContain("tray");
  expect(old({ kind: "delivery", id: 1, post: 10, at: "2027-06-01T09:00:00+00:00" })).not.toContain("tray");
  expect(old({ kind: "post", id: 20, undated: true })).toEqual(["tray", "post20", "delivery1", "assigned"]);
  expect(old({ kind: "post", id: 10, undated: false })).toEqual([
    "window",
    "strip",
    "spacing",
    "post10",
    "history10",
    "delivery1",
    "talk10",
    "assigned",
  ]);
  expect(old({ kind: "post", id: 30, undated: false })).toContain("tray");
});

test("words, labels or a campaign may let a post into a window that a filter narrows, or into its counts", () => {
  const queries = new QueryClient();
  const narrowed = brandKey("calendar", "garden", "2026-11-23", 7, { words: "moss" }, "profile");
  queries.setQueryData(narrowed, window);
  const isOld = (undated: boolean) => staleQueries(queries, "garden", [{ kind: "post", id: 90, undated }]).size;
  expect([isOld(false), isOld(true)]).toEqual([1, 0]);
});

test("many at once make every window old, and a post what is its own", () => {
  expect(old({ kind: "delivery", id: 0 })).toEqual(expect.arrayContaining(["window", "later", "post10", "post20"]));
  expect(old({ kind: "post", id: 10 })).toEqual(expect.arrayContaining(["post10", "talk10", "window", "tray"]));
  expect(old({ kind: "post", id: 10 })).not.toContain("post20");
});

test("after a break in the line all is read again that anything could have changed, of this brand", () => {
  const all = old(...ANYTHING);
  expect(all).toEqual(Object.keys(KEYS).filter((name) => !["elsewhere", "check"].includes(name)));
});

test("a kind that is not known here changes nothing", () => {
  expect(old({ kind: "weather" as Change["kind"], id: 3 })).toEqual([]);
});

test("several changes at once read each thing again once", async () => {
  const queries = new QueryClient();
  const read = vi.fn(async () => window);
  const [queryKey] = KEYS.window ?? [[]];
  const watched = new QueryObserver(queries, { queryKey, queryFn: read });
  const end = watched.subscribe(() => undefined);
  await vi.waitFor(() => expect(watched.getCurrentResult().data).toBe(window));
  await renew(queries, "garden", [
    { kind: "delivery", id: 1, post: 10, at: null },
    { kind: "post", id: 10 },
    { kind: "label", id: 4 },
  ]);
  expect(read).toHaveBeenCalledTimes(2);
  end();
});

test("what is read for the first time while it changes is read once more", async () => {
  const queries = new QueryClient();
  const answers: ((value: string) => void)[] = [];
  const read = vi.fn(() => new Promise<string>((answer) => answers.push(answer)));
  const [queryKey] = KEYS.post10 ?? [[]];
  const watched = new QueryObserver(queries, { queryKey, queryFn: read });
  const end = watched.subscribe(() => undefined);
  void renew(queries, "garden", [{ kind: "post", id: 10 }]);
  answers[0]?.("before");
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[1]?.("after");
  await vi.waitFor(() => expect(watched.getCurrentResult().data).toBe("after"));
  end();
});
