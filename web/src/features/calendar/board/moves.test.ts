import { expect, test } from "vitest";
import type { CalendarWindow, Ticket } from "@/api/client";
import { countSiblings, movedWith, moveTo, moveToTray } from "./moves";
import { inSight, NONE_CHOSEN, toggle } from "./selection";

const ticket = (id: number, day: number, more: Partial<Ticket> = {}) =>
  ({ id, day, post: id, revision: 3, time: "09:00", profile: 5, moves: true, ...more }) as Ticket;
const [moss, oats, rye] = [ticket(1, 1), ticket(2, 3, { time: "17:30" }), ticket(3, 4, { moves: false })];
const window = {
  days: ["2026-02-27", "2026-02-28", "2026-03-01", "2026-03-02"].map((date) => ({ date })),
  tickets: [moss, oats, rye],
} as CalendarWindow;

test("cards are chosen and left one by one, or all from the last one to this one", () => {
  const order = [10, 20, 30, 40, 50];
  let chosen = toggle(NONE_CHOSEN, order, 40, false);
  chosen = toggle(chosen, order, 20, true);
  expect([...chosen.chosen].sort()).toEqual([20, 30, 40]);
  chosen = toggle(chosen, order, 30, false);
  expect([...chosen.chosen].sort()).toEqual([20, 40]);
  // From a card that a filter has put away nothing leads anywhere: this one alone.
  chosen = toggle(chosen, [20, 40, 50], 50, true);
  expect([...chosen.chosen].sort()).toEqual([20, 40, 50]);
  expect([...inSight(chosen, [10, 50])]).toEqual([50]);
  expect(inSight(chosen, order)).toBe(chosen.chosen);
});

test("a card takes the others that are chosen along, where they may move; one that isn't chosen goes alone", () => {
  expect(movedWith(moss, window, new Set([1, 2, 3]))).toEqual([moss, oats]);
  expect(movedWith(moss, window, new Set([2, 3]))).toEqual([moss]);
  expect(movedWith(moss, window, new Set([1]))).toEqual([moss]);
});

test("one card takes the spot's day, time and row", () => {
  const moved = moveTo(moss, [moss], { day: 2, time: "11:15", profile: 6 }, window, false);
  const move = { id: 1, revision: 3, wall_time: "2026-03-01T11:15", profile: 6, snap: false };
  expect(moved?.list).toEqual([move]);
  expect(moved?.places.get(1)).toEqual({ day: 2, time: "11:15", profile: 6 });
});

test("several move by as many days, each at its own time and profile, over the month's end", () => {
  const moved = moveTo(moss, [moss, oats], { day: 2, time: "11:15", profile: 6 }, window, false);
  expect(moved?.list.map((one) => [one.wall_time, one.profile])).toEqual([
    ["2026-03-01T09:00", null],
    ["2026-03-03T17:30", null],
  ]);
});

test("where nothing would change, or there is no such day, nothing is asked for; a free slot may be elsewhere", () => {
  expect(moveTo(moss, [moss], { day: 1, time: "09:00", profile: 5 }, window, false)).toBeNull();
  expect(moveTo(moss, [moss], { day: 1 }, window, false)).toBeNull();
  expect(moveTo(moss, [moss], { day: 9 }, window, false)).toBeNull();
  expect(moveTo(moss, [moss], { tray: true }, window, false)).toBeNull();
  expect(moveTo(moss, [moss], { day: 1 }, window, true)?.list[0]?.snap).toBe(true);
});

test("siblings are the same posts' other deliveries that can be moved, on whichever day", () => {
  const [one, other] = [ticket(4, 2, { post: 1, movable: 3 }), ticket(5, 2, { post: 1, movable: 3, moves: false })];
  expect(countSiblings([one])).toBe(2);
  expect(countSiblings([one, other])).toBe(2);
  expect(countSiblings([one, ticket(6, 2, { post: 1, movable: 3 }), ticket(7, 1, { post: 2, movable: 1 })])).toBe(1);
  expect(moveToTray([moss])[0]).toMatchObject({ id: 1, revision: 3, wall_time: null });
});
