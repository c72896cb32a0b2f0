import { beforeEach, expect, test } from "vitest";
import { claimDrafts, countStoredDrafts, draftKey, forgetDrafts } from "./storedDrafts";

beforeEach(() => {
  const kept: Record<string, string> = {};
  Object.assign(globalThis, {
    localStorage: Object.defineProperties(kept, {
      getItem: { value: (key: string) => kept[key] ?? null },
      setItem: { value: (key: string, value: string) => Object.assign(kept, { [key]: value }) },
      removeItem: { value: (key: string) => delete kept[key] },
    }),
  });
});

test("drafts leave, and nothing else does", () => {
  localStorage.setItem(draftKey("garden", null), "{}");
  localStorage.setItem(draftKey("bakery", 4), "{}");
  localStorage.setItem("menudo-scheme", "dark");
  expect(countStoredDrafts()).toBe(2);
  forgetDrafts();
  expect(countStoredDrafts()).toBe(0);
  expect(localStorage.getItem("menudo-scheme")).toBe("dark");
});

test("what one person left is not shown to the next", () => {
  claimDrafts(1);
  localStorage.setItem(draftKey("garden", null), "{}");
  claimDrafts(1);
  expect(countStoredDrafts()).toBe(1);
  claimDrafts(2);
  expect(countStoredDrafts()).toBe(0);
});
