import { useQueries, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useState } from "react";
import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { calendarQueries, type Piece } from "@/data/calendar";

export type PieceState = "there" | "coming" | "failed";
export type Pieces = {
  /** Say which pieces one view, or one part of it, has in sight: they are read, and read again when they are old. */
  want: (who: string, pieces: Piece[]) => void;
  stateOf: (piece: Piece) => PieceState;
  again: (piece: Piece) => void;
  /** What narrows the calendar: its pieces are narrowed by it too. */
  narrow: Piece["narrow"];
};

export const PiecesContext = createContext<Pieces | null>(null);

/** Whether the first cards are there: what is less urgent is read after them. */
export const FirstCardsContext = createContext(true);
export const useFirstCards = () => useContext(FirstCardsContext);

export function usePieces(): Pieces {
  const pieces = useContext(PiecesContext);
  if (!pieces) throw new Error("usePieces is for what lies on a board");
  return pieces;
}

/** While this is drawn these pieces are in sight. */
export function useWant(who: string, pieces: Piece[]): void {
  const { want } = usePieces();
  const key = pieces.map(keyOf).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same pieces are told once
  useEffect(() => {
    want(who, pieces);
    return () => want(who, []);
  }, [want, who, key]);
}

const keyOf = (piece: Piece) => JSON.stringify(piece);
type Sight = ReadonlyMap<string, readonly string[]>;
export type Asked = { span: string; pieces: ReadonlyMap<string, Piece>; sights: Sight };
const NOTHING: Omit<Asked, "span"> = { pieces: new Map(), sights: new Map() };

/** With what a view, or a part of one, has in sight now; the same where nothing is new. */
export function addSight(now: Asked, span: string, who: string, pieces: Piece[]): Asked {
  const here = now.span === span ? now : { span, ...NOTHING };
  const keys = pieces.map(keyOf);
  if (keys.join() === (here.sights.get(who) ?? []).join()) return here;
  const sights = new Map(here.sights);
  if (keys.length) sights.set(who, keys);
  else sights.delete(who);
  const fresh = pieces.filter((piece) => !here.pieces.has(keyOf(piece)));
  if (!fresh.length) return { span, sights, pieces: here.pieces };
  // Lanes that lie in other runs now are read with those: what was read of them before would never be read again.
  const known = [...here.pieces].filter(([, piece]) => !fresh.some((one) => overlaps(one, piece)));
  return { span, sights, pieces: new Map([...known, ...fresh.map((piece) => [keyOf(piece), piece] as const)]) };
}

/** Whether two pieces have lanes in common. */
function overlaps(one: Piece, other: Piece): boolean {
  if (!one.marks || !other.marks) return false;
  const profiles = new Set(one.narrow.profiles?.split(","));
  return other.narrow.profiles?.split(",").some((profile) => profiles.has(profile)) ?? false;
}

/**
 * A window whose cards are only counted, with the cards of the pieces that were asked for so far. What has gone out of sight stays as
 * it was last read, so that what was chosen there is still chosen. `awaitsCards`: whether the view shows any without being asked.
 */
export function useWindowPieces(
  brand: string,
  window: CalendarWindow | undefined,
  narrow: Piece["narrow"],
  awaitsCards: boolean,
) {
  const span = window?.gathered ? JSON.stringify([brand, window.days[0]?.date, window.days.length, narrow]) : "";
  const [asked, setAsked] = useState<Asked>({ span, ...NOTHING });
  const want = useCallback(
    (who: string, pieces: Piece[]) => setAsked((now) => addSight(now, span, who, pieces)),
    [span],
  );
  const { pieces, sights } = asked.span === span ? asked : NOTHING;
  const seen = useMemo(() => new Set([...sights.values()].flat()), [sights]);
  const found = useQueries({
    queries: [...pieces].map(([key, piece]) => ({ ...calendarQueries.cards(brand, piece), enabled: seen.has(key) })),
    combine: (results) => results.map(({ data, isError, isFetching }) => ({ data, failed: isError && !isFetching })),
  });
  const queries = useQueryClient();
  return useMemo(() => {
    const there = found.flatMap(({ data }) => data ?? []);
    const states = new Map(
      [...pieces.keys()].map((key, n) => [key, found[n]?.data ? "there" : found[n]?.failed ? "failed" : "coming"]),
    ) as Map<string, PieceState>;
    const again = (piece: Piece) => queries.refetchQueries(calendarQueries.cards(brand, piece));
    const hasFirstCards = !window?.gathered || !awaitsCards || [...states.values()].some((state) => state !== "coming");
    return {
      window: window?.gathered ? withPieces(window, there) : window,
      pieces: { want, stateOf: (piece: Piece) => states.get(keyOf(piece)) ?? "coming", again, narrow },
      hasFirstCards,
    };
  }, [window, found, pieces, want, brand, queries, narrow, awaitsCards]);
}

type Found = { tickets: Ticket[]; marks: Schemas["LaneMarksOut"][] };

/** Each card once, in the order of their times; of two readings of one the newer revision. */
export function withPieces(window: CalendarWindow, pieces: Found[]): CalendarWindow {
  const tickets = new Map<number, Ticket>();
  for (const ticket of pieces.flatMap((piece) => piece.tickets)) {
    const known = tickets.get(ticket.id);
    if (!known || known.revision < ticket.revision) tickets.set(ticket.id, ticket);
  }
  return {
    ...window,
    tickets: [...tickets.values()].sort(
      (a, b) => a.day - b.day || (a.time < b.time ? -1 : +(a.time > b.time)) || a.id - b.id,
    ),
    marks: pieces.flatMap((piece) => piece.marks),
  };
}
