import type { Query, QueryClient } from "@tanstack/react-query";
import type { Ticket } from "@/api/client";
import { fetchPiece, type Piece } from "./calendar";
import type { Change, Shown } from "./changes";

/** Some profiles' lanes of a piece of the calendar, or whatever a query shows. */
export type Part = ReadonlySet<number> | "all";
/** Of so many, or more, of its lanes, a piece is read whole. */
const MOST_OF = 1 / 3;

/** What of a query a change makes old: of a piece of lanes those on which the changed post lies, or comes to lie. */
export function changedPart(query: Query, { kind, id, post = id, profile }: Change): Part {
  const { tickets, profiles } = (query.state.data ?? {}) as Shown;
  if (!id || !profiles || !tickets || (kind !== "delivery" && kind !== "post")) return "all";
  const lanes = new Set(tickets.filter((ticket) => ticket.post === post).map((ticket) => ticket.profile));
  if (profile && profiles.includes(profile)) lanes.add(profile);
  // Where it isn't known on which, it may be any.
  return lanes.size ? lanes : "all";
}

export function joined(one: Part, other: Part): Part {
  return one === "all" || other === "all" ? "all" : new Set([...one, ...other]);
}

export function isWhole(query: Query, part: Part): part is "all" {
  const { profiles } = (query.state.data ?? {}) as Shown;
  return part === "all" || !profiles || part.size > profiles.length * MOST_OF;
}

/** Read some lanes of a piece again, in place of what it had of them. False, and nothing is changed, if it was read or changed meanwhile. */
export async function readLanes(queries: QueryClient, query: Query, lanes: ReadonlySet<number>): Promise<boolean> {
  const [, brand, , piece] = query.queryKey as [string, string, string, Piece];
  const before = query.state.data as Awaited<ReturnType<typeof fetchPiece>>;
  const profiles = [...lanes].join();
  const fresh = await fetchPiece(brand, { ...piece, narrow: { ...piece.narrow, profiles } });
  if (query.state.data !== before) return false;
  const stays = (one: { profile: number }) => !lanes.has(one.profile);
  queries.setQueryData(query.queryKey, {
    ...before,
    tickets: [...before.tickets.filter(stays), ...fresh.tickets].sort(byTime),
    marks: [...before.marks.filter(stays), ...fresh.marks],
  });
  return true;
}

const byTime = (one: Ticket, other: Ticket) =>
  one.day - other.day || one.time.localeCompare(other.time) || one.id - other.id;
