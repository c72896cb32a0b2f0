import { useDraggable } from "@dnd-kit/core";
import { memo } from "react";
import type { Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useMarked, useTools } from "./board";
import { TicketFace, ticketStyle, ticketWords } from "./TicketCard";

type Props = {
  ticket: Ticket;
  handle: string;
  day: string;
  lone: boolean;
  who?: string;
  /** Where it is carried to just now. */
  lifted?: boolean;
  time?: string;
  crowds?: boolean;
};

/** A delivery's card on a board: pressed it opens, dragged or lifted it moves, with shift or ctrl it is chosen. */
export const Card = memo(function Card(props: Props) {
  const { ticket } = props;
  const { me, may } = useBrandContext();
  const { open, toggle, labels } = useTools();
  const { selected, changed } = useMarked();
  const movable = ticket.moves && may("publish");
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: ticket.id,
    data: { ticket },
    disabled: !movable,
  });
  const mine = ticket.labels.flatMap((id) => labels.get(id) ?? []);
  const words = ticketWords(
    ticket,
    props.handle,
    props.day,
    me.clock24,
    mine.map((label) => label.name),
  );
  const picked = selected.has(ticket.id);
  return (
    <button
      ref={setNodeRef}
      type="button"
      data-stop=""
      data-ticket={ticket.id}
      data-moves={movable ? "" : undefined}
      aria-label={words}
      aria-pressed={picked || undefined}
      aria-keyshortcuts={movable ? "Space" : undefined}
      title={words}
      {...listeners}
      {...ticketStyle(ticket, {
        glow: changed.has(ticket.id),
        lifted: props.lifted || isDragging,
        picked,
        crowds: props.crowds,
      })}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 10 } : undefined}
      onClick={(e) => (e.ctrlKey || e.metaKey || e.shiftKey ? toggle(ticket.id, e.shiftKey) : open(ticket.id))}
    >
      <TicketFace
        ticket={ticket}
        clock24={me.clock24}
        lone={props.lone}
        ink={mine[0]?.ink}
        time={props.time}
        who={props.who}
      />
    </button>
  );
});
