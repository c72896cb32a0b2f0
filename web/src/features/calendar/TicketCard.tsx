import { Box } from "@chakra-ui/react";
import type { Ticket } from "@/api/client";
import { StateShape, stateWords } from "@/ui/StateShape";
import { clockWords } from "@/ui/times";

const NOTCH = "polygon(0 0, 100% 0, 100% 100%, 0 100%, 0 calc(50% + 4px), 3px 50%, 0 calc(50% - 4px))";
const LOUD = new Set(["in_trouble", "missed"]);
const DONE = new Set(["published", "called_off", "taken_down"]);

export function ticketWords(ticket: Ticket, handle: string, day: string, clock24: boolean): string {
  const reason = ticket.reason ? ` ${ticket.reason}` : "";
  // It begins with what can be read on the card, so that what one sees is what one can say (WCAG 2.5.3).
  return `${clockWords(ticket.time, clock24)} ${ticket.headline || "no words yet"}, ${handle}, ${stateWords(ticket.state)}, ${day}.${reason}`;
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
        {`${clockWords(time ?? ticket.time, clock24)} `}
        {ticket.pictures > 0 && <PictureMark many={ticket.pictures > 1} />}
      </Box>
      {lone && (
        <Box color="faded" whiteSpace="nowrap" overflow="hidden" textOverflow="clip" minH="14px">
          {ticket.headline || <i>no words yet</i>}
        </Box>
      )}
    </Box>
  );
}

function PictureMark({ many }: { many: boolean }) {
  return (
    <svg
      width="13"
      height="11"
      viewBox="0 0 13 11"
      aria-hidden="true"
      style={{ marginLeft: "auto", flex: "none", color: "var(--m-colors-faded)" }}
    >
      {many && <path d="M4.5 .75h7.75v6.5" fill="none" stroke="currentColor" strokeWidth="1.2" />}
      <rect x=".75" y="2.75" width="9" height="7.5" fill="none" stroke="currentColor" strokeWidth="1.2" />
      <path d="M2 9l2.4-3 1.8 2 1-1L9 9z" fill="currentColor" />
    </svg>
  );
}
