import { expect, test } from "vitest";
import type { CalendarWindow, Ticket } from "@/api/client";
import { rowsOf } from "./HourHeaps";
import { dayPiece, lanesPiece, runsOf } from "./pieces";
import { type Asked, addSight, withPieces } from "./usePieces";

const days = ["2026-12-01", "2026-12-02", "2026-12-03"].map((date) => ({ date }));
const window = {
  days,
  tickets: [],
  marks: [],
  gathered: { lanes: [], heaps: [] },
} as unknown as CalendarWindow;
const ticket = (id: number, day: number, time: string, revision = 1) => ({ id, day, time, revision }) as Ticket;

test("lanes are read in runs of at most 24, and of about 400 cards; one that has more is read alone", () => {
  const many = Array.from({ length: 50 }, (_, n) => n + 1);
  expect(runsOf(many, new Map()).map((run) => run.length)).toEqual([24, 24, 2]);
  expect(
    runsOf(
      [1, 2, 3, 4],
      new Map([
        [1, 300],
        [2, 100],
        [3, 1],
        [4, 900],
      ]),
    ),
  ).toEqual([[1, 2], [3], [4]]);
  expect(runsOf([], new Map())).toEqual([]);
});

test("a piece keeps the filter but for what it is a piece of, and counts its days from the window's first", () => {
  const narrow = { sets: "4", networks: "brisk,plaza" };
  expect(lanesPiece(window, narrow, [7, 9])).toEqual({
    origin: "2026-12-01", first: "2026-12-01", days: 3, narrow: { ...narrow, profiles: "7,9" }, marks: true,
  }); // biome-ignore format: one piece
  expect(dayPiece(window, narrow, 2, "plaza")).toEqual({
    origin: "2026-12-01", first: "2026-12-03", days: 1, narrow: { sets: "4", networks: "plaza" }, marks: false,
  }); // biome-ignore format: one piece
});

test("of pieces that overlap each card is there once, as it was last changed, in the order of their times", () => {
  const pieces = [
    { tickets: [ticket(3, 1, "09:00"), ticket(2, 0, "18:00")], marks: [] },
    { tickets: [ticket(2, 1, "08:00", 2), ticket(1, 1, "09:00")], marks: [] },
  ];
  expect(withPieces(window, pieces).tickets.map(({ id, time }) => [id, time])).toEqual([
    [2, "08:00"],
    [1, "09:00"],
    [3, "09:00"],
  ]);
});

test("heaps wrap into rows as wide as the day has room", () => {
  expect([rowsOf([], 100), rowsOf([50], 100), rowsOf([50, 50, 10], 100), rowsOf([150, 150], 100)]).toEqual([
    0, 1, 2, 2,
  ]);
});

test("what was read stays when it leaves sight, but not where its lanes are read otherwise, nor of other days", () => {
  const [one, two, other] = [
    [1, 2],
    [3, 4],
    [2, 3],
  ].map((profiles) => lanesPiece(window, {}, profiles));
  if (!one || !two || !other) throw new Error("three pieces");
  let asked: Asked = { span: "", pieces: new Map(), sights: new Map() };
  const known = () => [...asked.pieces.values()].map((piece) => piece.narrow.profiles);
  asked = addSight(asked, "days", "lanes", [one]);
  asked = addSight(asked, "days", "lanes", [two]);
  expect(known()).toEqual(["1,2", "3,4"]);
  expect([...asked.sights.values()].flat()).toHaveLength(1);
  expect(addSight(asked, "days", "lanes", [two])).toBe(asked);
  expect(addSight(asked, "days", "lanes", []).sights.size).toBe(0);
  asked = addSight(asked, "days", "lanes", [other]);
  expect(known()).toEqual(["2,3"]);
  asked = addSight(asked, "other days", "lanes", [one]);
  expect(known()).toEqual(["1,2"]);
});
