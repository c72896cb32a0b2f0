import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { addDays } from "@/ui/times";
import type { Spot } from "./board";

type Place = { day: number; time: string; profile: number };

/** What is asked of the server when cards are set down, and where they lie until it has answered. */
export type Moved = {
  list: Schemas["OneMoveIn"][];
  places: Map<number, Place>;
  date: string;
  time: string;
  profile?: number;
};

/** What goes along with a card: all that are chosen and may move, when it is one of several; else it alone. */
export function movedWith(ticket: Ticket, window: CalendarWindow, selected: ReadonlySet<number>): Ticket[] {
  if (!selected.has(ticket.id) || selected.size < 2) return [ticket];
  return window.tickets.filter((one) => selected.has(one.id) && one.moves);
}

/** How many other deliveries of the same posts could go along, on whichever day. */
export function countSiblings(tickets: Ticket[]): number {
  const posts = new Map(tickets.map((one) => [one.post, one.movable]));
  return [...posts.values()].reduce((sum, count) => sum + count, 0) - tickets.filter((one) => one.moves).length;
}

/**
 * Cards set down at a spot: as many days on as the one that was carried. One alone also takes the spot's time and row;
 * several keep theirs. Null where there is no such day, or nothing would change.
 */
export function moveTo(
  ticket: Ticket,
  tickets: Ticket[],
  spot: Spot,
  window: CalendarWindow,
  snap: boolean,
): Moved | null {
  const date = window.days[spot.day ?? -1]?.date;
  const first = window.days[0]?.date;
  if (!date || !first || spot.day === undefined) return null;
  const by = spot.day - ticket.day;
  const alone = tickets.length === 1;
  const time = alone ? spot.time : undefined;
  const profile = alone && spot.profile !== ticket.profile ? spot.profile : undefined;
  if (!by && !profile && !snap && (time ?? ticket.time) === ticket.time) return null;
  const places = new Map(
    tickets.map((one) => [one.id, { day: one.day + by, time: time ?? one.time, profile: profile ?? one.profile }]),
  );
  const list = tickets.map((one) => ({
    id: one.id,
    revision: one.revision,
    wall_time: `${addDays(first, one.day + by)}T${time ?? one.time}`,
    profile: profile ?? null,
    snap,
  }));
  return { list, places, date, time: time ?? ticket.time, profile };
}

/** Cards off the calendar, to the tray. */
export const moveToTray = (tickets: Ticket[]): Schemas["OneMoveIn"][] =>
  tickets.map(({ id, revision }) => ({ id, revision, wall_time: null, profile: null, snap: false }));
