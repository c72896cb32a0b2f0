import { expect, test } from "vitest";
import { gatherWidth, isDense, type TickItem, tickGroups } from "./DayTicks";

const DAY = 24 * 60;
const tick = (minute: number, key = `${minute}`): TickItem => ({
  key,
  share: minute / DAY,
  stack: 0,
  state: "planned",
  summary: "",
  delivery: 1,
});

test("few that stand apart have a target each, and those that don't share one", () => {
  const groups = tickGroups([tick(0), tick(10), tick(300)], 960);
  expect(groups.map((group) => group.map((one) => one.key))).toEqual([["0", "10"], ["300"]]);
});

test("many are gathered by whole quarters of an hour, wide enough to be pressed, and none is lost", () => {
  // One each five minutes: in a chain of neighbours they would all be one.
  const all = Array.from({ length: DAY / 5 }, (_, n) => tick(n * 5));
  expect(isDense(all)).toBe(true);
  for (const [width, minutes] of [
    [1152, 30],
    [2304, 15],
    [256, 135],
  ] as const) {
    expect(gatherWidth(width)).toBeCloseTo((minutes / DAY) * width);
    expect(gatherWidth(width)).toBeGreaterThanOrEqual(24);
    const groups = tickGroups(all, width);
    expect(groups.map((group) => group.length)).toEqual(
      Array.from({ length: Math.ceil(DAY / minutes) }, (_, n) => Math.min(minutes, DAY - n * minutes) / 5),
    );
    expect(groups.flat()).toEqual(all);
  }
});
