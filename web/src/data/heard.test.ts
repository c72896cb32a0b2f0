import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, expect, test, vi } from "vitest";
import { renewHeard } from "./heard";
import { brandKey } from "./keys";

const post = { kind: "post", id: 10 } as const;
const postKey = brandKey("posts", "garden", 10);
const counted = { days: [], tickets: [], tray: [], gathered: { lanes: [], heaps: [] } };

afterEach(() => void vi.useRealTimers());

/** Reading it takes so long; how often it was read. */
function watch(queryKey = postKey, data: unknown = "read", ms = 0) {
  const queries = new QueryClient();
  const read = vi.fn(() => new Promise((answer) => setTimeout(() => answer(data), ms)));
  new QueryObserver(queries, { queryKey, queryFn: read }).subscribe(() => undefined);
  const hear = (listeners?: number) => renewHeard(queries, "garden", [post], listeners);
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
  hear(5);
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
  // Thirty seconds: each 0.2 s and what it takes; each 10 s, and the first two at once.
  expect(alone.read.mock.calls.length).toBeGreaterThan(50);
  expect(crowd.read.mock.calls.length).toBeGreaterThan(3);
  expect(crowd.read.mock.calls.length).toBeLessThan(6);
});

test("nothing rests for more than twenty seconds, however slow the server is", async () => {
  vi.useFakeTimers();
  const { hear, read } = watch(brandKey("strip", "garden"), "read", 3000);
  await vi.advanceTimersByTimeAsync(3100);
  hear(50);
  await vi.advanceTimersByTimeAsync(3100);
  hear(50);
  await vi.advanceTimersByTimeAsync(20_100);
  expect(read).toHaveBeenCalledTimes(3);
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
