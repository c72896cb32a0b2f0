import { useCallback, useMemo, useRef, useState } from "react";
import type { Ticket } from "@/api/client";
import { inSight, NONE_CHOSEN, toggle as toggled } from "./selection";

/** The cards chosen of those that are shown. */
export function useSelection(tickets: Ticket[]) {
  const [selection, setSelection] = useState(NONE_CHOSEN);
  const order = useMemo(() => tickets.map((ticket) => ticket.id), [tickets]);
  // The same function whatever is shown: every card has it.
  const latest = useRef(order);
  latest.current = order;
  const toggle = useCallback(
    (id: number, through: boolean) => setSelection((now) => toggled(now, latest.current, id, through)),
    [],
  );
  const clear = useCallback(() => setSelection(NONE_CHOSEN), []);
  const selected = useMemo(() => inSight(selection, order), [selection, order]);
  const keep = useMemo(() => tickets.filter((ticket) => selected.has(ticket.id)), [tickets, selected]);
  return { selected, toggle, clear, keep };
}
