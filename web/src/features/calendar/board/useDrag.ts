import { type KeyboardEvent, useState } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import type { Carried } from "./board";
import { carry, lift, type Steps } from "./carry";

/** Lifting a card with the keyboard, carrying it over days, times and profiles, and setting it down or putting it back. */
export function useDrag(
  window: CalendarWindow,
  steps: Steps,
  setDown: (carried: Carried) => void,
  toTray: (ticket: Ticket) => void,
) {
  const [carried, setCarried] = useState<Carried | null>(null);

  function keyDown(event: KeyboardEvent): boolean {
    const step = carried && carry(carried, event.key, window, steps);
    if (!step) return false;
    setCarried(step.carried);
    if (step.act === "set down") setDown(carried);
    if (step.act === "to the tray") toTray(carried.ticket);
    event.preventDefault();
    return true;
  }
  return { carried, lift: (ticket: Ticket) => setCarried(lift(ticket)), keyDown };
}
