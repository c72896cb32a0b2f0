import { type KeyboardEvent, useState } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import type { Carried } from "./board";

const QUARTER = 15;
const TO_TRAY = new Set(["Delete", "Backspace"]);

function shifted(time: string, minutes: number): string {
  const [h = 0, m = 0] = time.split(":").map(Number);
  const at = Math.min(Math.max(h * 60 + m + minutes, 0), 23 * 60 + 45);
  return `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
}

/** How a view reads the arrows: days by left and right always, and by up and down a week, or a quarter of an hour. */
export type Steps = "quarters" | "weeks";

/** Lifting a card with the keyboard, carrying it over days, times and profiles, and setting it down or putting it back. */
export function useDrag(
  window: CalendarWindow,
  steps: Steps,
  setDown: (carried: Carried) => void,
  toTray: (ticket: Ticket) => void,
) {
  const [carried, setCarried] = useState<Carried | null>(null);

  function keyDown(event: KeyboardEvent): boolean {
    if (!carried) return false;
    const upDown = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const days = ({ ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0) + (steps === "weeks" && upDown ? 7 * upDown : 0);
    const row = { PageUp: -1, PageDown: 1 }[event.key];
    if (days) {
      const day = carried.day + days;
      if (day >= 0 && day < window.days.length) setCarried({ ...carried, day });
    } else if (upDown) setCarried({ ...carried, time: shifted(carried.time, QUARTER * upDown) });
    else if (row) {
      const at = window.lanes.findIndex((lane) => lane.profile === carried.profile) + row;
      const lane = window.lanes[at];
      if (lane) setCarried({ ...carried, profile: lane.profile });
    } else if (TO_TRAY.has(event.key)) {
      setCarried(null);
      toTray(carried.ticket);
    } else if (event.key === "Enter" || event.key === " ") {
      setCarried(null);
      const { ticket } = carried;
      if (carried.day !== ticket.day || carried.time !== ticket.time || carried.profile !== ticket.profile)
        setDown(carried);
    } else if (event.key === "Escape") setCarried(null);
    else return false;
    event.preventDefault();
    return true;
  }
  const lift = (ticket: Ticket) => setCarried({ ticket, day: ticket.day, time: ticket.time, profile: ticket.profile });
  return { carried, lift, keyDown };
}
