import { useEffect, useRef, useState } from "react";
import type { Ticket } from "@/api/client";

const GLOWS_MS = 1300;

/** The ids of cards that changed since the window was last shown: they glow for a second. Of a window that comes in `pieces` new cards
 * are those that have come into sight. */
export function useGlow(tickets: Ticket[], show: number | undefined, pieces: boolean): Set<number> {
  const known = useRef<Map<number, number> | null>(null);
  const [changed, setChanged] = useState<Set<number>>(new Set(show ? [show] : []));
  useEffect(() => {
    const before = known.current;
    known.current = new Map(tickets.map((t) => [t.id, t.revision]));
    if (!before) return;
    const isFresh = (t: Ticket) => before.get(t.id) !== t.revision && (!pieces || before.has(t.id));
    const fresh = tickets.filter(isFresh).map((t) => t.id);
    // Many at once is another window, not a change.
    if (fresh.length && fresh.length < 12) setChanged(new Set(fresh));
  }, [tickets, pieces]);
  useEffect(() => {
    if (!changed.size) return;
    const timer = setTimeout(() => setChanged(new Set()), GLOWS_MS);
    return () => clearTimeout(timer);
  }, [changed]);
  return changed;
}
