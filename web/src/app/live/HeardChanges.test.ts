import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { ANYTHING, type Change } from "@/data/changes";
import { HeardChanges } from "./HeardChanges";

const post = { kind: "post", id: 7 } as const;
const notice = { kind: "notice", id: 1 } as const;
let read: Change[][];
let page: Document & { hidden: boolean };
let heard: HeardChanges;

const turn = (hidden: boolean) => {
  page.hidden = hidden;
  page.dispatchEvent(new Event("visibilitychange"));
};

beforeEach(() => {
  vi.useFakeTimers();
  read = [];
  page = Object.assign(new EventTarget(), { hidden: false }) as Document & { hidden: boolean };
  heard = new HeardChanges((changes) => read.push(changes), page);
});

afterEach(() => {
  heard.close();
  vi.useRealTimers();
});

test("what is heard within a moment is read again together", () => {
  heard.hear(post);
  vi.advanceTimersByTime(50);
  heard.hear(notice);
  vi.advanceTimersByTime(50);
  expect(read).toEqual([]);
  vi.advanceTimersByTime(50);
  expect(read).toEqual([[post, notice]]);
});

test("a window that nobody sees reads notices alone, and the rest once when it is looked at", () => {
  turn(true);
  heard.hear(post);
  heard.hear(notice);
  vi.advanceTimersByTime(1000);
  expect(read).toEqual([[notice]]);
  turn(false);
  vi.advanceTimersByTime(1000);
  expect(read).toEqual([[notice], [post]]);
  turn(true);
  turn(false);
  vi.advanceTimersByTime(1000);
  expect(read).toHaveLength(2);
});

test("how many hear is told with what was heard, and is no change", () => {
  const told: number[] = [];
  const another = new HeardChanges((_, listeners) => told.push(listeners), page);
  another.hear(post);
  vi.advanceTimersByTime(200);
  another.hear({ listeners: 46 });
  vi.advanceTimersByTime(200);
  expect(told).toEqual([1]);
  another.hear(post);
  vi.advanceTimersByTime(200);
  expect(told).toEqual([1, 46]);
  another.close();
});

test("a window that missed something, or more than one counts, reads anything when it is looked at", () => {
  turn(true);
  for (let n = 0; n < 2000; n++) heard.hear({ kind: "delivery", id: n + 1 });
  vi.advanceTimersByTime(1000);
  // Nothing of that is read while nobody looks; what a break may have hidden of notices is.
  heard.hear(post);
  vi.advanceTimersByTime(1000);
  expect(read).toEqual([]);
  heard.hear("broken");
  vi.advanceTimersByTime(1000);
  expect(read).toEqual([[{ kind: "notice", id: 0 }]]);
  turn(false);
  vi.advanceTimersByTime(1000);
  expect(read.at(-1)).toBe(ANYTHING);
  heard.hear("broken");
  heard.hear(post);
  vi.advanceTimersByTime(1000);
  expect(read.at(-1)).toBe(ANYTHING);
});
