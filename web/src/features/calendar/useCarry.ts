import { type KeyboardEvent, useState } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";

export type Carried = { ticket: Ticket; day: number; time: string };
const QUARTER = 15;

function shifted(time: string, minutes: number): string {
  const [h = 0, m = 0] = time.split(":").map(Number);
  const at = Math.min(Math.max(h * 60 + m + minutes, 0), 23 * 60 + 45);
  return `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
}

/** Lifting a card with the keyboard, carrying it, and setting it down or putting it back. */
export function useCarry(window: CalendarWindow, setDown: (carried: Carried) => void) {
  const [carried, setCarried] = useState<Carried | null>(null);

  function keyDown(event: KeyboardEvent): boolean {
    if (!carried) return false;
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const minutes = { ArrowUp: -QUARTER, ArrowDown: QUARTER }[event.key];
    if (step) {
      const day = Math.min(Math.max(carried.day + step, 0), window.days.length - 1);
      setCarried({ ...carried, day });
    } else if (minutes) setCarried({ ...carried, time: shifted(carried.time, minutes) });
    else if (event.key === "Enter" || event.key === " ") {
      setCarried(null);
      if (carried.day !== carried.ticket.day || carried.time !== carried.ticket.time) setDown(carried);
    } else if (event.key === "Escape") setCarried(null);
    else return false;
    event.preventDefault();
    return true;
  }

  return { carried, lift: (ticket: Ticket) => setCarried({ ticket, day: ticket.day, time: ticket.time }), keyDown };
}
