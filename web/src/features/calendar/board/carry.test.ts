import { expect, test } from "vitest";
import type { CalendarWindow, Ticket } from "@/api/client";
import { carry, lift, type Steps } from "./carry";

const ticket = { id: 1, day: 2, time: "09:00", profile: 5 } as Ticket;
const window = { days: Array(14).fill({}), lanes: [{ profile: 4 }, { profile: 5 }] } as unknown as CalendarWindow;

/** Where it is after these keys, and what the last came to. */
function after(keys: string[], steps: Steps = "quarters") {
  let step: ReturnType<typeof carry> = { carried: lift(ticket) };
  for (const key of keys) step = step?.carried ? carry(step.carried, key, window, steps) : step;
  return step;
}
const at = (keys: string[], steps?: Steps) => {
  const { day, time, profile } = after(keys, steps)?.carried ?? {};
  return [day, time, profile];
};

test("arrows carry it over days and quarters of an hour, the pages over profiles' rows", () => {
  expect(at(["ArrowRight", "ArrowRight", "ArrowUp", "PageUp"])).toEqual([4, "08:45", 4]);
  expect(at(["ArrowDown", "ArrowDown", "PageDown"])).toEqual([2, "09:30", 5]);
  expect(at(["ArrowDown", "ArrowRight"], "weeks")).toEqual([10, "09:00", 5]);
});

test("it stays within what is shown and within its day", () => {
  expect(at(Array(9).fill("ArrowLeft"))).toEqual([0, "09:00", 5]);
  expect(at(["ArrowUp"], "weeks")).toEqual([2, "09:00", 5]);
  expect(at(Array(60).fill("ArrowUp"))).toEqual([2, "00:00", 5]);
  expect(at(Array(99).fill("ArrowDown"))).toEqual([2, "23:45", 5]);
});

test("set down where it lay, nothing happens; elsewhere it moves; or off to the tray; or back", () => {
  expect(after(["Enter"])).toEqual({ carried: null, act: undefined });
  expect(after(["ArrowRight", "ArrowLeft", " "])).toEqual({ carried: null, act: undefined });
  expect(after(["ArrowRight", " "])).toEqual({ carried: null, act: "set down" });
  expect(after(["ArrowRight", "Delete"])).toEqual({ carried: null, act: "to the tray" });
  expect(after(["ArrowRight", "Escape"])).toEqual({ carried: null });
  expect(after(["x"])).toBeNull();
});
