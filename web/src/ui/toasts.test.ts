import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { toast, undoNewest } from "./toasts";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.runAllTimers();
  vi.useRealTimers();
});

test("the newest that can be undone is undone, once, and nothing when there is none", () => {
  const undo = vi.fn(async () => {});
  const older = vi.fn(async () => {});
  toast("Moved", { undo: older });
  toast("Called off", { undo });
  toast("Kept");
  expect(undoNewest()).toBe(true);
  expect([undo.mock.calls.length, older.mock.calls.length]).toEqual([1, 0]);
  expect(undoNewest()).toBe(true);
  expect(older.mock.calls).toHaveLength(1);
  expect(undoNewest()).toBe(false);
});

test("what has been there for its time can be undone no more", () => {
  const undo = vi.fn(async () => {});
  toast("Moved", { undo });
  vi.advanceTimersByTime(10_000);
  expect(undoNewest()).toBe(false);
  expect(undo).not.toHaveBeenCalled();
});
