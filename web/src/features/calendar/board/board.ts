import { createContext, useContext } from "react";
import type { CalendarWindow, Network, Schemas, Ticket } from "@/api/client";
import type { Label } from "../Labels";

export type Draft = Schemas["TrayOut"];
export type Lane = Schemas["LaneOut"];
/** Somewhere a card can be set down: a day, perhaps a time of it, perhaps a profile's row; or the tray. */
export type Spot = { tray?: true; day?: number; time?: string; profile?: number };
export type Held = { ticket: Ticket } | { draft: Draft };
/** What the keyboard carries, and where it is just now. */
export type Carried = { ticket: Ticket; day: number; time: string; profile: number };

export type Board = {
  window: CalendarWindow;
  lanes: Map<number, Lane>;
  held: Held | null;
  carried: Carried | null;
};

/** What every card and place needs, the same from one drawing to the next. */
export type Tools = {
  open: (id: number) => void;
  toggle: (id: number, through: boolean) => void;
  begin: (date: string, profile?: number, time?: string) => void;
  labels: ReadonlyMap<number, Label>;
  networks: ReadonlyMap<string, Network>;
};
/** Which cards are chosen, and which have just changed. */
export type Marked = { selected: ReadonlySet<number>; changed: ReadonlySet<number> };

export const ToolsContext = createContext<Tools | null>(null);
export const MarkedContext = createContext<Marked>({ selected: new Set(), changed: new Set() });
export const HeldContext = createContext<Held | null>(null);
export const useMarked = () => useContext(MarkedContext);
/** What is dragged just now. */
export const useHeld = () => useContext(HeldContext);

export function useTools(): Tools {
  const tools = useContext(ToolsContext);
  if (!tools) throw new Error("useTools is for what lies on a board");
  return tools;
}

export const BoardContext = createContext<Board | null>(null);

export function useBoard(): Board {
  const board = useContext(BoardContext);
  if (!board) throw new Error("useBoard is for what lies on a board");
  return board;
}

/** What stands in the way of setting it down there, as the server told of days and profiles; empty: nothing. */
export function refusal(held: Held, spot: Spot, window: CalendarWindow, lanes: Map<number, Lane>): string {
  if (spot.tray) return "";
  const day = spot.day === undefined ? undefined : window.days[spot.day];
  if (!day || day.past) return "has passed";
  const profile = spot.profile ?? ("ticket" in held ? held.ticket.profile : undefined);
  return (profile !== undefined && lanes.get(profile)?.refuses) || "";
}

/** What will happen there that isn't plain to see. */
export function remark(held: Held, spot: Spot, lanes: Map<number, Lane>): string {
  if ("ticket" in held && spot.profile !== undefined && spot.profile !== held.ticket.profile)
    return `to ${lanes.get(spot.profile)?.handle} instead`;
  const profile = spot.profile ?? ("ticket" in held ? held.ticket.profile : undefined);
  if (profile !== undefined && lanes.get(profile)?.holds) return lanes.get(profile)?.holds ?? "";
  if ("ticket" in held && held.ticket.state === "held") return "stays held";
  return "";
}
