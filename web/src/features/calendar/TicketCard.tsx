import { Box, chakra } from "@chakra-ui/react";
import type { Ticket } from "@/api/client";
import { StateShape, stateWords } from "@/ui/StateShape";
import { clockWords } from "@/ui/times";

const NOTCH = "polygon(0 0, 100% 0, 100% 100%, 0 100%, 0 calc(50% + 4px), 3px 50%, 0 calc(50% - 4px))";
const LOUD = new Set(["in_trouble", "missed"]);
const DONE = new Set(["published", "called_off", "taken_down"]);

export function ticketWords(ticket: Ticket, handle: string, day: string, clock24: boolean): string {
  const reason = ticket.reason ? ` ${ticket.reason}` : "";
  return `${clockWords(ticket.time, clock24)} on ${day}, ${handle}, ${stateWords(ticket.state)}: ${ticket.headline || "no words yet"}.${reason}`;
}

type Props = {
  ticket: Ticket;
  clock24: boolean;
  lone: boolean;
  glow: boolean;
  lifted?: boolean;
  words: string;
  time?: string;
};

/** A delivery's card: notched left edge, the state's shape, its time, its first line. */
export function TicketCard({ ticket, clock24, lone, glow, lifted, words, time }: Props) {
  return (
    <Box
      title={words}
      bg="card"
      borderWidth="1px"
      borderColor={LOUD.has(ticket.state) ? "pimenton" : lifted ? "anil" : "rule"}
      borderRadius="2px"
      clipPath={lifted ? undefined : NOTCH}
      px="6px"
      py="2px"
      fontSize="11px"
      lineHeight="14px"
      textAlign="left"
      overflow="hidden"
      boxShadow={lifted ? "4px 4px 0 color-mix(in srgb, var(--m-colors-ink) 18%, transparent)" : undefined}
      animation={glow ? "glow 1.2s ease-out" : undefined}
      textDecoration={ticket.state === "called_off" ? "line-through" : undefined}
    >
      <Box
        display="flex"
        alignItems="center"
        gap="4px"
        fontWeight="600"
        fontVariantNumeric="tabular-nums"
        color={DONE.has(ticket.state) ? "faded" : "ink"}
        minH="16px"
      >
        <StateShape state={ticket.state} size={11} />
        {clockWords(time ?? ticket.time, clock24)}
        {ticket.pictures > 0 && (
          <chakra.span ml="auto" color="faded" fontWeight="400" aria-hidden>
            ▣{ticket.pictures > 1 ? ticket.pictures : ""}
          </chakra.span>
        )}
      </Box>
      {lone && (
        <Box color="faded" whiteSpace="nowrap" overflow="hidden" textOverflow="clip" minH="14px">
          {ticket.headline || <i>no words yet</i>}
        </Box>
      )}
    </Box>
  );
}
