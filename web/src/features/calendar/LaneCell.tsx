import { Box, chakra } from "@chakra-ui/react";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import type { Schemas, Ticket } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { dayWords, weekdayWords } from "@/ui/times";
import { TicketCard, ticketWords } from "./TicketCard";
import type { Carried } from "./useCarry";

type Props = {
  lane: Schemas["LaneOut"];
  day: Schemas["DayOut"];
  row: number;
  column: number;
  tickets: Ticket[];
  carried: Carried | null;
  dragged: Ticket | null;
  changed: Set<number>;
  begin: (profile: number, date: string) => void;
  open: (id: number) => void;
};

/** One profile's day: its cards, or an empty spot to begin a post on. */
export function LaneCell({ lane, day, row, column, tickets, carried, dragged, changed, begin, open }: Props) {
  const { may } = useHere();
  const { setNodeRef, isOver } = useDroppable({
    id: `${lane.profile}:${column}`,
    data: { profile: lane.profile, day: column },
  });
  const here = tickets.filter((t) => t.id !== carried?.ticket.id);
  const guest = carried && carried.ticket.profile === lane.profile && carried.day === column ? carried : null;
  const refused =
    dragged && isOver && (dragged.profile !== lane.profile ? "other profile" : day.past ? "has passed" : null);
  const words = `${weekdayWords(day.weekday)} ${dayWords(day.date)}`;
  const count = here.length + (guest ? 1 : 0);
  return (
    <Box
      ref={setNodeRef}
      role="gridcell"
      data-row={row}
      data-column={column}
      borderLeftWidth="1px"
      borderColor="rule"
      p="2px"
      minW="0"
      display="flex"
      flexDirection="column"
      gap="2px"
      bg={isOver && dragged ? (refused ? "pimenton/15" : "anil/15") : day.weekday > 4 ? "wash" : undefined}
    >
      {refused && (
        <Box fontSize="11px" lineHeight="13px" color="pimenton" fontWeight="600">
          {refused}
        </Box>
      )}
      {here.map((ticket) => (
        <Movable
          key={ticket.id}
          ticket={ticket}
          lane={lane}
          day={words}
          lone={count < 2}
          glow={changed.has(ticket.id)}
          open={open}
        />
      ))}
      {guest && (
        <Movable
          ticket={guest.ticket}
          lane={lane}
          day={words}
          lone={count < 2}
          glow={false}
          lifted
          time={guest.time}
          open={open}
        />
      )}
      {count === 0 &&
        (may("write") && !day.past ? (
          <chakra.button
            type="button"
            data-stop=""
            aria-label={`New post for ${lane.handle} on ${words}`}
            onClick={() => begin(lane.profile, day.date)}
            flex="1"
            cursor="pointer"
            color="transparent"
            fontSize="18px"
            _hover={{ color: "faded" }}
            _focusVisible={{ color: "faded" }}
          >
            <span aria-hidden>+</span>
          </chakra.button>
        ) : (
          <Box data-stop="" tabIndex={-1} flex="1">
            <chakra.span position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
              {words}, nothing
            </chakra.span>
          </Box>
        ))}
    </Box>
  );
}

type MovableProps = {
  ticket: Ticket;
  lane: Schemas["LaneOut"];
  day: string;
  lone: boolean;
  glow: boolean;
  lifted?: boolean;
  time?: string;
  open: (id: number) => void;
};

function Movable({ ticket, lane, day, lone, glow, lifted, time, open }: MovableProps) {
  const { me, may } = useHere();
  const movable = ticket.moves && may("publish");
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: ticket.id,
    data: { ticket },
    disabled: !movable,
  });
  const words = ticketWords(ticket, lane.handle, day, me.clock24);
  return (
    <chakra.button
      ref={setNodeRef}
      type="button"
      data-stop=""
      data-ticket={ticket.id}
      data-state={ticket.state}
      aria-label={words}
      aria-keyshortcuts={movable ? "Space" : undefined}
      {...listeners}
      onClick={() => open(ticket.id)}
      cursor={movable ? "grab" : "pointer"}
      touchAction="manipulation"
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      position={isDragging ? "relative" : undefined}
      zIndex={isDragging ? "10" : undefined}
      display="block"
      w="100%"
    >
      <TicketCard
        ticket={ticket}
        clock24={me.clock24}
        lone={lone}
        glow={glow}
        lifted={lifted || isDragging}
        words={words}
        time={time}
      />
    </chakra.button>
  );
}
