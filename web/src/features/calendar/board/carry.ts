import type { CalendarWindow, Ticket } from "@/api/client";
import type { Carried } from "./board";

const QUARTER = 15;
const LAST = 23 * 60 + 45;

/** How a view reads the arrows: days by left and right always, and by up and down a week, or a quarter of an hour. */
export type Steps = "quarters" | "weeks";

/** What a key comes to: where the card is now (null: nowhere, it is let go), and what is to be done with it. */
export type Step = { carried: Carried | null; act?: "set down" | "to the tray" };

/** Lift a card with the keyboard. */
export const lift = (ticket: Ticket): Carried => ({
  ticket,
  day: ticket.day,
  time: ticket.time,
  profile: ticket.profile,
});

/** A key while a card is carried: over days, times and profiles' rows, down, or back. Null for a key that isn't ours. */
export function carry(carried: Carried, key: string, window: CalendarWindow, steps: Steps): Step | null {
  const upDown = { ArrowUp: -1, ArrowDown: 1 }[key];
  const days = ({ ArrowLeft: -1, ArrowRight: 1 }[key] ?? 0) + (steps === "weeks" && upDown ? 7 * upDown : 0);
  const row = { PageUp: -1, PageDown: 1 }[key];
  if (days) {
    const day = carried.day + days;
    return { carried: day >= 0 && day < window.days.length ? { ...carried, day } : carried };
  }
  if (upDown) return { carried: { ...carried, time: shifted(carried.time, QUARTER * upDown) } };
  if (row) {
    const at = window.lanes.findIndex((lane) => lane.profile === carried.profile) + row;
    const lane = window.lanes[at];
    return { carried: lane ? { ...carried, profile: lane.profile } : carried };
  }
  if (key === "Delete" || key === "Backspace") return { carried: null, act: "to the tray" };
  if (key === "Enter" || key === " ") return { carried: null, act: isMoved(carried) ? "set down" : undefined };
  return key === "Escape" ? { carried: null } : null;
}

function isMoved({ ticket, day, time, profile }: Carried): boolean {
  return day !== ticket.day || time !== ticket.time || profile !== ticket.profile;
}

function shifted(time: string, minutes: number): string {
  const [h = 0, m = 0] = time.split(":").map(Number);
  const at = Math.min(Math.max(h * 60 + m + minutes, 0), LAST);
  return `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
}
