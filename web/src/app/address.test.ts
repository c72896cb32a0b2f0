import { expect, test } from "vitest";
import { calendarSearch, flag, librarySearch, listed, narrowedSearch, number } from "./address";

const set = (found: object) => Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined));

test("an address of the calendar is read as far as it means something", () => {
  const said = { from: "2026-11-28", show: "14", view: "month", panel: "advice", sort: "state", by: "set", lay: 3 };
  expect(set(calendarSearch({ ...said, labels: 7, words: "moss", open: "12" }))).toEqual({
    from: "2026-11-28",
    show: 14,
    open: 12,
    view: "month",
    panel: "advice",
    sort: "state",
    by: "set",
    lay: "3",
    labels: "7",
    words: "moss",
  });
  expect(
    set(calendarSearch({ view: "year", panel: 1, sort: "", by: "label", show: "-1", open: "x", from: 4 })),
  ).toEqual({});
});

test("an address of the library tells no folder from any folder, and unused from used or not", () => {
  expect(set(librarySearch({ folder: "0", used: "false", binned: "true", kind: "video", shelf: "bin" }))).toEqual({
    folder: 0,
    used: false,
    binned: true,
    kind: "video",
    shelf: "bin",
  });
  expect(set(librarySearch({ folder: "-3", used: "perhaps", binned: "false", kind: "song", shelf: "top" }))).toEqual(
    {},
  );
});

test("one id alone is a list, a number is whole and more than nothing, a flag is only what says so", () => {
  expect([listed(5), listed("5,6"), listed("")]).toEqual(["5", "5,6", undefined]);
  expect([number("3"), number("3.5"), number("0"), number(undefined)]).toEqual([3, undefined, undefined, undefined]);
  expect([flag("true"), flag(true), flag("1")]).toEqual([true, true, undefined]);
  expect(narrowedSearch({ networks: "brisk", states: "", people: 9, other: "x" })).toEqual({
    networks: "brisk",
    people: "9",
  });
});
