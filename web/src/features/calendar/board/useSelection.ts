import { useCallback, useMemo, useState } from "react";
import type { Ticket } from "@/api/client";

const NONE: ReadonlySet<number> = new Set();

/** The cards chosen; with `through`, all from the last one chosen to this one, in the order of the calendar. */
export function useSelection(tickets: Ticket[]) {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(NONE);
  const [last, setLast] = useState<number | null>(null);
  const toggle = useCallback(
    (id: number, through: boolean) => {
      const from = tickets.findIndex((t) => t.id === last);
      const to = tickets.findIndex((t) => t.id === id);
      setChosen((now) => {
        const next = new Set(now);
        if (through && from >= 0 && to >= 0)
          for (const t of tickets.slice(Math.min(from, to), Math.max(from, to) + 1)) next.add(t.id);
        else if (next.has(id)) next.delete(id);
        else next.add(id);
        return next;
      });
      setLast(id);
    },
    [tickets, last],
  );
  const clear = useCallback(() => setChosen(NONE), []);
  const keep = useMemo(() => tickets.filter((t) => chosen.has(t.id)), [tickets, chosen]);
  // What a filter has put out of sight is not chosen any more.
  const selected = useMemo(
    () => (keep.length === chosen.size ? chosen : new Set(keep.map((t) => t.id))),
    [keep, chosen],
  );
  return { selected, toggle, clear, keep };
}
