import { expect, test } from "vitest";
import { filtersOf, isFiltered, NO_FILTERS, toggleFilter } from "./filters";

test("an entry is put in and taken out, and nothing is left of an empty list", () => {
  expect(toggleFilter(undefined, "brisk")).toBe("brisk");
  expect(toggleFilter("brisk,plaza", "brisk")).toBe("plaza");
  expect(toggleFilter("brisk", "plaza")).toBe("brisk,plaza");
  expect(toggleFilter("brisk", "brisk")).toBeUndefined();
});

test("only what narrows is taken of an address", () => {
  expect(filtersOf({ words: "moss", labels: "", view: "month" } as never)).toEqual({ words: "moss" });
  expect([isFiltered({}), isFiltered(NO_FILTERS), isFiltered({ people: "3" })]).toEqual([false, false, true]);
});
