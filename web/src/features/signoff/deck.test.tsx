// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import { type PendingPost, type PendingSignoffs, useDeck } from "./deck";

const post = (id: number, more: Partial<PendingPost> = {}) =>
  ({ post: id, mine: true, state: "up", ...more }) as PendingPost;
const page = (...posts: PendingPost[]) => ({ posts }) as PendingSignoffs;
const deck = (data: PendingSignoffs, first?: number) =>
  renderHook(({ data }) => useDeck(data, first), { initialProps: { data } });

test("after each answer the next open one is in sight, from where one is and then from the beginning", () => {
  const { result, rerender } = deck(page(post(1), post(2), post(3)), 2);
  expect(result.current.post?.post).toBe(2);
  act(() => result.current.answered(2, "agreed"));
  rerender({ data: page(post(1), post(2, { mine: false }), post(3)) });
  expect(result.current.post?.post).toBe(3);
  act(() => result.current.answered(3, "back"));
  rerender({ data: page(post(1), post(2, { mine: false }), post(3, { state: "sent_back" })) });
  expect(result.current.post?.post).toBe(1);
  expect([1, 2, 3].map(result.current.outcome)).toEqual(["open", "agreed", "back"]);
  expect(result.current.open.map((one) => one.post)).toEqual([1]);
});

test("one that is gone stays in its place with what became of it, and new ones come after", () => {
  const { result, rerender } = deck(page(post(1), post(2)));
  rerender({ data: page(post(2), post(9)) });
  expect(result.current.order).toEqual([1, 2, 9]);
  expect(result.current.outcome(1)).toBe("gone");
  expect(result.current.post?.post).toBe(2);
});

test("an answer that was taken back, or asked for anew, is open again; steps stop at the ends", () => {
  const { result, rerender } = deck(page(post(1), post(2)));
  act(() => result.current.answered(1, "agreed"));
  rerender({ data: page(post(1), post(2)) });
  expect(result.current.outcome(1)).toBe("open");
  act(() => result.current.step(1));
  act(() => result.current.step(-1));
  expect(result.current.post?.post).toBe(1);
  act(() => result.current.step(-1));
  expect(result.current.place).toBe(0);
});
