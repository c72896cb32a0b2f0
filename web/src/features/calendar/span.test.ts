import { expect, test } from "vitest";
import { addDays, weekdayOf } from "@/ui/times";
import { spanOf, titleOf } from "./span";

test("a month is shown by whole weeks from Monday, and holds each of its days", () => {
  for (let year = 2024; year < 2030; year++)
    for (let month = 1; month <= 12; month++) {
      const at = `${year}-${String(month).padStart(2, "0")}-15`;
      const { first, days, back, on } = spanOf("month", at, "2020-01-01");
      const shown = Array.from({ length: days }, (_, n) => addDays(first ?? "", n));
      const length = new Date(Date.UTC(year, month, 0)).getUTCDate();
      expect(weekdayOf(first ?? "")).toBe(0);
      expect(days % 7).toBe(0);
      expect(shown.filter((day) => day.startsWith(at.slice(0, 7)))).toHaveLength(length);
      // No week of it is another month's alone.
      expect(shown.slice(-7).some((day) => day.startsWith(at.slice(0, 7)))).toBe(true);
      expect([back.slice(8), on.slice(8), spanOf("month", on, at).back]).toEqual(["01", "01", `${at.slice(0, 7)}-01`]);
    }
});

test("a week begins on Monday, the list is thirty days, lanes two weeks from a day or from today", () => {
  expect(spanOf("week", "2026-11-28", "2026-01-01")).toMatchObject({
    first: "2026-11-23",
    days: 7,
    back: "2026-11-16",
    on: "2026-11-30",
  });
  expect(spanOf("list", undefined, "2026-11-28")).toMatchObject({ first: undefined, days: 30, back: "2026-11-21" });
  expect(spanOf("lanes", "nonsense", "2026-11-28")).toMatchObject({ days: 14, back: "2026-11-21", on: "2026-12-05" });
});

test("a span is called by its month, or by its first and last day", () => {
  const days = [{ date: "2026-11-28" }, { date: "2026-12-11" }];
  expect([titleOf("month", days, "2026-11"), titleOf("lanes", days, ""), titleOf("list", [], "")]).toEqual([
    "November 2026",
    "28 Nov – 11 Dec",
    "",
  ]);
});
