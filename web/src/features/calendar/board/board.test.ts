import { expect, test } from "vitest";
import type { CalendarWindow } from "@/api/client";
import { type Held, type Lane, refusal, remark } from "./board";

const lane = (profile: number, more: Partial<Lane> = {}) =>
  ({ profile, handle: `@p${profile}`, refuses: "", holds: "", ...more }) as Lane;
const window = { days: [{ past: true }, { past: false }] } as CalendarWindow;
const lanes = new Map(
  [lane(1), lane(2, { refuses: "@p2 is disconnected" }), lane(3, { holds: "paused: it would be held" })].map((l) => [
    l.profile,
    l,
  ]),
);
const ticket = { ticket: { profile: 1, state: "planned" } } as Held;
const draft = { draft: { post: 4 } } as Held;

test("a card isn't set down on a day that has passed, nor where the server says nothing can be planned", () => {
  expect(refusal(ticket, { day: 0 }, window, lanes)).toBe("has passed");
  expect(refusal(ticket, { day: 9 }, window, lanes)).toBe("has passed");
  expect(refusal(ticket, { day: 1 }, window, lanes)).toBe("");
  expect(refusal(ticket, { day: 1, profile: 2 }, window, lanes)).toBe("@p2 is disconnected");
  expect(refusal(draft, { day: 1 }, window, lanes)).toBe("");
  expect(refusal(ticket, { tray: true }, window, lanes)).toBe("");
});

test("what isn't plain to see is said: another profile, a pause, a hold that stays", () => {
  expect(remark(ticket, { day: 1, profile: 3 }, lanes)).toBe("to @p3 instead");
  expect(remark(draft, { day: 1, profile: 3 }, lanes)).toBe("paused: it would be held");
  expect(remark({ ticket: { profile: 1, state: "held" } } as Held, { day: 1 }, lanes)).toBe("stays held");
  expect(remark(ticket, { day: 1, profile: 1 }, lanes)).toBe("");
});
