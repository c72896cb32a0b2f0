import { useEffect, useRef, useState } from "react";
import type { Ticket } from "@/api/client";

const GLOWS_MS = 1300;

/** The ids of cards that changed since the window was last shown: they glow for a second. */
export function useGlow(tickets: Ticket[], show: number | undefined): Set<number> {
  const known = useRef<Map<number, number> | null>(null);
  const [changed, setChanged] = useState<Set<number>>(new Set(show ? [show] : []));
  useEffect(() => {
    const before = known.current;
    known.current = new Map(tickets.map((t) => [t.id, t.revision]));
    if (!before) return;
    const fresh = tickets.filter((t) => before.get(t.id) !== t.revision).map((t) => t.id);
    // Many at once is another window, not a change.
    if (fresh.length && fresh.length < 12) setChanged(new Set(fresh));
  }, [tickets]);
  useEffect(() => {
    if (!changed.size) return;
    const timer = setTimeout(() => setChanged(new Set()), GLOWS_MS);
    return () => clearTimeout(timer);
  }, [changed]);
  return changed;
}
