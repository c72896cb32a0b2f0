import { useCallback, useMemo, useState } from "react";
import type { Ticket } from "@/api/client";
import { inSight, NONE_CHOSEN, toggle as toggled } from "./selection";

/** The cards chosen of those that are shown. */
export function useSelection(tickets: Ticket[]) {
  const [selection, setSelection] = useState(NONE_CHOSEN);
  const order = useMemo(() => tickets.map((ticket) => ticket.id), [tickets]);
  const toggle = useCallback(
    (id: number, through: boolean) => setSelection((now) => toggled(now, order, id, through)),
    [order],
  );
  const clear = useCallback(() => setSelection(NONE_CHOSEN), []);
  const selected = useMemo(() => inSight(selection, order), [selection, order]);
  const keep = useMemo(() => tickets.filter((ticket) => selected.has(ticket.id)), [tickets, selected]);
  return { selected, toggle, clear, keep };
}
