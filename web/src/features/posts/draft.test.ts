import { beforeEach, expect, test, vi } from "vitest";
import { clearDraft, EMPTY, storeDraft, storedDraft } from "./draft";

beforeEach(() => {
  const stored = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => stored.set(key, value),
    removeItem: (key: string) => stored.delete(key),
  });
});

test("what could not be kept at the server is there again, for its brand and post alone", () => {
  const draft = { ...EMPTY, title: "Moss", overrides: { brisk: { text: "Brisk's" } } };
  storeDraft("garden", null, draft);
  expect(storedDraft("garden", null)).toEqual(draft);
  expect(storedDraft("garden", 1)).toBeNull();
  expect(storedDraft("bakery", null)).toBeNull();
  clearDraft("garden", null);
  expect(storedDraft("garden", null)).toBeNull();
});

test("what an earlier Menudo stored comes back with its networks' own words", () => {
  const { overrides: _, ...rest } = { ...EMPTY, title: "Moss" };
  localStorage.setItem("menudo-bench:garden:new", JSON.stringify({ ...rest, own: { brisk: { text: "Brisk's" } } }));
  expect(storedDraft("garden", null)).toEqual({ ...EMPTY, title: "Moss", overrides: { brisk: { text: "Brisk's" } } });
});

test("what is broken in the browser's store is as if it were not there", () => {
  localStorage.setItem("menudo-bench:garden:new", "{");
  expect(storedDraft("garden", null)).toBeNull();
  localStorage.setItem("menudo-bench:garden:new", "3");
  expect(storedDraft("garden", null)).toBeNull();
});
