import { expect, test } from "vitest";
import {
  addDays,
  formatBothClocks,
  formatClock,
  formatDay,
  formatInstant,
  formatWallTime,
  formatZone,
  monthWords,
  wallTimeIn,
  weekdayOf,
} from "./times";

test("a time is written for those who read twenty-four hours and for those who read twelve", () => {
  expect(["00:00", "00:05", "11:59", "12:00", "15:30"].map((time) => formatClock(time, false))).toEqual([
    "12 am",
    "12:05 am",
    "11:59 am",
    "12 pm",
    "3:30 pm",
  ]);
  expect(formatClock("15:30", true)).toBe("15:30");
  expect(formatBothClocks("2026-11-25T15:00")).toBe("Wed 25 Nov, 15:00 · 3 pm");
});

test("days are counted on the calendar, over the ends of months and of leap years", () => {
  expect([addDays("2026-12-31", 1), addDays("2028-02-28", 1), addDays("2026-03-01", -1)]).toEqual([
    "2027-01-01",
    "2028-02-29",
    "2026-02-28",
  ]);
  // 1 January 2000 was a Saturday (ISO 8601 counts from Monday; here it is 0).
  expect([weekdayOf("2000-01-01"), weekdayOf("2026-11-28"), weekdayOf("2026-11-30")]).toEqual([5, 5, 0]);
  expect([formatDay("2026-01-09"), monthWords("2026-09-30")]).toEqual(["9 Jan", "September 2026"]);
  expect(formatWallTime("2026-11-25T09:05:00", true)).toBe("Wed 25 Nov, 09:05");
});

// The zones' rules are those of the IANA database, as the browser has it.
test("an instant is told as the wall of a zone shows it, also where clocks are changed", () => {
  expect(wallTimeIn("2026-03-29T00:59:00Z", "Europe/Madrid")).toBe("2026-03-29T01:59");
  expect(wallTimeIn("2026-03-29T01:00:00Z", "Europe/Madrid")).toBe("2026-03-29T03:00");
  expect(wallTimeIn("2026-11-28T00:10:00Z", "Asia/Kathmandu")).toBe("2026-11-28T05:55");
  expect(wallTimeIn("2026-11-28T00:10:00Z", "America/New_York")).toBe("2026-11-27T19:10");
  expect(formatInstant("2026-11-28T23:30:00Z", "Europe/Madrid", false)).toBe("Sun 29 Nov, 12:30 am");
  expect(formatZone("America/Argentina/Buenos_Aires")).toBe("Buenos Aires time");
});
