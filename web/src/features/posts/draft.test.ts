import { beforeEach, expect, test, vi } from "vitest";
import { clearDraft, contentOf, EMPTY, type Overrides, storeDraft, storedDraft } from "./draft";

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

const MASTER = {
  ...EMPTY.master,
  text: "Moss",
  media: [1],
  link: "https://a.example/",
  card: { title: "A", description: "", picture: null },
};
const drafted = (own: Overrides, master = {}) => ({
  ...EMPTY,
  master: { ...MASTER, ...master },
  overrides: { brisk: own },
});

test("a column says what it has of its own and inherits the rest; a link of its own has not the master's card", () => {
  const said = contentOf(drafted({ text: "Brisk's" }), "brisk", undefined);
  expect([said.text, said.media, said.card?.title]).toEqual(["Brisk's", [1], "A"]);
  expect(contentOf(drafted({ link: "https://b.example/" }), "brisk", undefined).card).toBeNull();
  expect(contentOf(drafted({}), "plaza", undefined).text).toBe("Moss");
});

test("how a picture is shown is inherited part by part", () => {
  const draft = drafted(
    { shown: { 1: { crop: null, focus: { x: 0.5, y: 0.5 } } } as never },
    { shown: { 1: { crop: { x: 0, y: 0, w: 1, h: 1 } } } },
  );
  expect(contentOf(draft, "brisk", undefined).shown?.[1]).toEqual({
    crop: { x: 0, y: 0, w: 1, h: 1 },
    focus: { x: 0.5, y: 0.5 },
  });
});

test("what the core has worked out of it holds, but for words that are being typed", () => {
  const written = { text: "Mos", link_tags: 7, card: null, shown: {} } as unknown as Overrides;
  const said = contentOf(drafted({}), "brisk", written);
  expect([said.text, said.link_tags, said.card]).toEqual(["Moss", 7, null]);
});
