import { memo } from "react";
import type { Ticket } from "@/api/client";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatClock } from "@/ui/times";
import "./ticket.css";

const LOUD = new Set(["in_trouble", "missed"]);
const DONE = new Set(["published", "called_off", "taken_down"]);

export function ticketWords(
  ticket: Ticket,
  handle: string,
  day: string,
  clock24: boolean,
  labels: string[] = [],
): string {
  const reason = ticket.reason ? ` ${ticket.reason}` : "";
  const labelled = labels.length ? ` Labels: ${labels.join(", ")}.` : "";
  // It begins with what can be read on the card, so that what one sees is what one can say (WCAG 2.5.3).
  return `${formatClock(ticket.time, clock24)} ${ticket.headline || "no words yet"}, ${handle}, ${stateWords(ticket.state)}, ${day}.${reason}${labelled}`;
}

type Look = {
  ticket: Ticket;
  clock24: boolean;
  lone: boolean;
  /** The ink of its first label: a folded corner. */
  ink?: string;
  time?: string;
  /** Whose it is, where the place doesn't show it. */
  who?: string;
};

/** The data attributes that make a ticket look as its state is. */
export function ticketStyle(
  ticket: Ticket,
  more: { glow?: boolean; lifted?: boolean; picked?: boolean; crowds?: boolean },
) {
  const on = (yes: boolean | undefined) => (yes ? "" : undefined);
  return {
    className: "ticket",
    "data-state": ticket.state,
    "data-loud": on(LOUD.has(ticket.state)),
    "data-done": on(DONE.has(ticket.state)),
    "data-off": on(ticket.state === "called_off"),
    "data-glow": on(more.glow),
    "data-lifted": on(more.lifted),
    "data-picked": on(more.picked),
    "data-crowds": on(more.crowds),
  };
}

/** What stands on a delivery's card: the state's shape, its time, its first line, its label's corner. */
export const TicketFace = memo(function TicketFace({ ticket, clock24, lone, ink, time, who }: Look) {
  return (
    <>
      {ink && <span className="corner" style={{ color: `var(--m-colors-${ink})` }} />}
      <span className="line">
        <StateShape state={ticket.state} size={11} />
        {`${formatClock(time ?? ticket.time, clock24)} `}
        {who && <span className="who">{who}</span>}
        {ticket.pictures > 0 && <PictureMark many={ticket.pictures > 1} />}
      </span>
      {lone && (
        <span className="words" style={{ display: "block" }}>
          {ticket.headline || <i>no words yet</i>}
        </span>
      )}
    </>
  );
});

/** A card that only shows, as in the calendar across all brands. */
export function TicketCard({ ticket, clock24, lone, words }: Look & { words: string }) {
  return (
    <div title={words} {...ticketStyle(ticket, {})}>
      <TicketFace ticket={ticket} clock24={clock24} lone={lone} />
    </div>
  );
}

function PictureMark({ many }: { many: boolean }) {
  return (
    <svg className="pictured" width="13" height="11" viewBox="0 0 13 11" aria-hidden="true">
      {many && <path d="M4.5 .75h7.75v6.5" fill="none" stroke="currentColor" strokeWidth="1.2" />}
      <rect x=".75" y="2.75" width="9" height="7.5" fill="none" stroke="currentColor" strokeWidth="1.2" />
      <path d="M2 9l2.4-3 1.8 2 1-1L9 9z" fill="currentColor" />
    </svg>
  );
}
