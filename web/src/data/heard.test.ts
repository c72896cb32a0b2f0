import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, expect, test, vi } from "vitest";
import { isInBackground, LESS_URGENT } from "@/api/background";
import { api } from "@/api/client";
import { calendarQueries } from "./calendar";
import { renewHeard } from "./heard";
import { brandKey } from "./keys";

const post = { kind: "post", id: 10 } as const;
const delivery = { kind: "delivery", id: 1, post: 10 } as const;
const postKey = brandKey("posts", "garden", 10);
const counted = { days: [], tickets: [], gathered: { lanes: [], heaps: [] } };

afterEach(() => void vi.useRealTimers());

/** Reading it takes so long; how often it was read. */
function watch(queryKey = postKey, data: unknown = "read", ms = 0) {
  const queries = new QueryClient();
  const read = vi.fn(() => new Promise((answer) => setTimeout(() => answer(data), ms)));
  new QueryObserver(queries, { queryKey, queryFn: read }).subscribe(() => undefined);
  const hear = (listeners?: number) => renewHeard(queries, "garden", [post, delivery], listeners);
  return { hear, read };
}

test("others' changes, however fast, have what is being read read once more, and not begun anew", async () => {
  vi.useFakeTimers();
  const { hear, read } = watch(postKey, "read", 100);
  for (let n = 0; n < 5; n++) hear();
  expect(read).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(110);
  expect(read).toHaveBeenCalledTimes(2);
  await vi.advanceTimersByTimeAsync(5000);
  expect(read).toHaveBeenCalledTimes(2);
  hear();
  expect(read).toHaveBeenCalledTimes(3);
});

test("what took long to read rests for longer before it is read again for others' changes", async () => {
  vi.useFakeTimers();
  const { hear, read } = watch(postKey, "read", 300);
  await vi.advanceTimersByTimeAsync(310);
  hear();
  await vi.advanceTimersByTimeAsync(310);
  expect(read).toHaveBeenCalledTimes(2);
  // As many times as long as it took, where a few listen: what a delivery goes through in seconds is seen.
  hear(3);
  await vi.advanceTimersByTimeAsync(2500);
  expect(read).toHaveBeenCalledTimes(2);
  await vi.advanceTimersByTimeAsync(1000);
  expect(read).toHaveBeenCalledTimes(3);
});

test("the more listen, the longer rests what stands around the page", async () => {
  vi.useFakeTimers();
  const key = brandKey("strip", "garden");
  const [alone, crowd] = [watch(key, "read", 20), watch(key, "read", 20)];
  for (let n = 0; n < 300; n++) {
    alone.hear(1);
    crowd.hear(50);
    await vi.advanceTimersByTimeAsync(100);
  }
  // Thirty seconds: each 0.4 s and what it takes; each 20 s, and the first two at once.
  expect(alone.read.mock.calls.length).toBeGreaterThan(50);
  expect(crowd.read.mock.calls.length).toBe(3);
});

test.each([
  ["however slow the server is, where few listen", brandKey("strip", "garden"), 3000, 9],
  ["however many listen, in front", postKey, 1000, 500],
])("nothing rests for more than twenty seconds, %s", async (_, key, ms, listeners) => {
  vi.useFakeTimers();
  const { hear, read } = watch(key, "read", ms);
  await vi.advanceTimersByTimeAsync(ms + 100);
  hear(listeners);
  await vi.advanceTimersByTimeAsync(ms + 100);
  hear(listeners);
  await vi.advanceTimersByTimeAsync(20_100);
  expect(read).toHaveBeenCalledTimes(3);
});

test("two things are read at once, however many are old, and all of them in the end", async () => {
  vi.useFakeTimers();
  const queries = new QueryClient();
  let [now, most] = [0, 0];
  const read = vi.fn(async () => {
    most = Math.max(most, ++now);
    await new Promise((done) => setTimeout(done, 50));
    now--;
    return [];
  });
  const shown = ["strip", "today", "obstacles", "trouble", "history", "listings"] as const;
  for (const family of shown) {
    queries.setQueryData(brandKey(family, "garden"), []);
    const watched = { queryKey: brandKey(family, "garden"), queryFn: read, staleTime: Number.POSITIVE_INFINITY };
    new QueryObserver(queries, watched).subscribe(() => undefined);
  }
  await vi.advanceTimersByTimeAsync(1000);
  renewHeard(queries, "garden", [delivery]);
  await vi.advanceTimersByTimeAsync(140);
  expect([read.mock.calls.length, most]).toEqual([6, 2]);
});

test("what fails is not asked all the more", async () => {
  vi.useFakeTimers();
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const read = vi.fn(() => new Promise((_, fail) => setTimeout(() => fail(new Error("busy")), 200)));
  new QueryObserver(queries, { queryKey: postKey, queryFn: read }).subscribe(() => undefined);
  for (let n = 0; n < 100; n++) {
    renewHeard(queries, "garden", [post]);
    await vi.advanceTimersByTimeAsync(100);
  }
  // Ten seconds: the first two at once, then each 2.2 s.
  expect(read.mock.calls.length).toBeLessThan(8);
  expect(read.mock.calls.length).toBeGreaterThan(3);
});

test("a window that only counts is read once in a while, however much is heard", async () => {
  vi.useFakeTimers();
  const { hear, read } = watch(brandKey("calendar", "garden", "a"), counted);
  await vi.advanceTimersByTimeAsync(10);
  for (let n = 0; n < 30; n++) {
    hear();
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(read).toHaveBeenCalledTimes(2);
  await vi.advanceTimersByTimeAsync(2000);
  expect(read).toHaveBeenCalledTimes(3);
});

test("of a run of lanes those are read again on which something changed, by requests that let others go before", async () => {
  vi.useFakeTimers();
  const asked: Request[] = [];
  const card = (id: number, profile: number, day = 0) => ({ id, post: id * 10, profile, day, time: "09:00" });
  const marks = [{ profile: 3, gaps: [], crowds: [] }];
  let answer = { tickets: [card(9, 1)], marks, next: null };
  vi.spyOn(api, "GET").mockImplementation(((path: string, { params }: { params: { query: { profiles: string } } }) => {
    asked.push(
      new Request(`http://menudo.test${path}?${params.query.profiles}`, {
        headers: isInBackground() ? { Priority: LESS_URGENT } : {},
      }),
    );
    return new Promise((done) => setTimeout(() => done({ data: answer, response: new Response() }), 50));
  }) as never);
  const piece = { origin: "2026-12-01", first: "2026-12-01", days: 7, narrow: { profiles: "1,2,3,4" }, marks: true };
  const queries = new QueryClient();
  const query = calendarQueries.cards("garden", piece);
  const data = {
    tickets: [card(1, 1), card(2, 2), card(3, 3, 1)],
    marks,
    first: piece.first,
    days: 7,
    profiles: [1, 2, 3, 4],
  };
  queries.setQueryData(query.queryKey, data as never);
  const shown = new QueryObserver(queries, { ...query, staleTime: Number.POSITIVE_INFINITY });
  shown.subscribe(() => undefined);
  const hear = (post: number, profile?: number) =>
    renewHeard(queries, "garden", [{ kind: "delivery", id: 7, post, profile, at: "2026-12-02T09:00:00Z" }]);
  const cards = () => shown.getCurrentResult().data?.tickets.map((one) => one.id);
  await vi.advanceTimersByTimeAsync(1000);
  hear(10, 1);
  // Heard while that is read: one more lane, and a change of another's profile that has nothing here.
  hear(30, 3);
  hear(990, 9);
  expect(asked.map((one) => [new URL(one.url).search, one.headers.get("Priority")])).toEqual([["?1", "u=5"]]);
  await vi.advanceTimersByTimeAsync(60);
  expect(cards()).toEqual([2, 9, 3]);
  answer = { tickets: [], marks: [], next: null };
  await vi.advanceTimersByTimeAsync(5000);
  expect(asked.map((one) => new URL(one.url).search)).toEqual(["?1", "?3"]);
  expect([cards(), shown.getCurrentResult().data?.marks]).toEqual([[2, 9], []]);
  // Many of its lanes at once, one that isn't named, or something else that all may show: it is read whole.
  const both = [20, 90].map((post, n) => ({
    ...delivery,
    id: n + 1,
    post,
    profile: n + 1,
    at: "2026-12-02T09:00:00Z",
  }));
  for (const changes of [
    both,
    [{ ...delivery, post: 5, at: "2026-12-02T09:00:00Z" }],
    [{ kind: "label", id: 4 } as const],
  ]) {
    asked.length = 0;
    renewHeard(queries, "garden", changes);
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked.map((one) => new URL(one.url).search)).toEqual(["?1,2,3,4"]);
  }
});
