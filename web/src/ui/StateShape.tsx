import type { ReactNode } from "react";

type Look = { colour: string; words: string; draw: ReactNode };
const ring = { fill: "none", stroke: "currentColor" };
const card = "var(--m-colors-card)";

/** Each state's shape, colour and words: a state is never told by colour alone. */
export const STATES: Record<string, Look> = {
  unplanned: {
    colour: "faded",
    words: "draft",
    draw: <circle cx="6" cy="6" r="4.6" {...ring} strokeWidth="1.6" strokeDasharray="2.2 1.8" />,
  },
  up_for_signoff: {
    colour: "maize",
    words: "up for sign-off",
    draw: (
      <>
        <circle cx="6" cy="6" r="4.8" {...ring} strokeWidth="1.5" />
        <path d="M6 1.2a4.8 4.8 0 0 1 0 9.6z" fill="currentColor" />
      </>
    ),
  },
  sent_back: {
    colour: "pimenton",
    words: "sent back",
    draw: (
      <>
        <circle cx="6" cy="6" r="4.8" {...ring} strokeWidth="1.5" />
        <path d="M3 6h6" stroke="currentColor" strokeWidth="1.8" />
      </>
    ),
  },
  planned: { colour: "anil", words: "planned", draw: <circle cx="6" cy="6" r="5" fill="currentColor" /> },
  held: {
    colour: "maize",
    words: "held",
    draw: (
      <>
        <circle cx="6" cy="6" r="5" fill="currentColor" />
        <path d="M4.6 3.8v4.4M7.4 3.8v4.4" stroke={card} strokeWidth="1.5" />
      </>
    ),
  },
  sending: {
    colour: "anil",
    words: "being sent",
    draw: (
      <circle
        cx="6"
        cy="6"
        r="4.6"
        {...ring}
        strokeWidth="1.8"
        strokeDasharray="20 9"
        style={{ transformOrigin: "center", animation: "turn 1.2s linear infinite" }}
      />
    ),
  },
  published: {
    colour: "epazote",
    words: "published",
    draw: <path d="M1.5 6.5l3 3.2 6-7" {...ring} strokeWidth="2.2" />,
  },
  in_trouble: {
    colour: "pimenton",
    words: "in trouble",
    draw: (
      <>
        <path d="M6 .8l5.6 10.2H.4z" fill="currentColor" />
        <path d="M6 4.4v3" stroke={card} strokeWidth="1.5" />
        <circle cx="6" cy="9.2" r=".9" fill={card} />
      </>
    ),
  },
  missed: { colour: "pimenton", words: "missed", draw: <path d="M2 1h8L6 6l4 5H2l4-5z" fill="currentColor" /> },
  waiting_for_hand: {
    colour: "maize",
    words: "waiting for hand",
    draw: (
      <path
        d="M2.2 7V4.5M4.2 6V2.2M6.2 6V1.4M8.2 6V2.4M2.2 6.5c0 3 1.6 4.8 4 4.8s4-1.8 4-4.8V4"
        {...ring}
        strokeWidth="1.4"
        strokeLinecap="round"
      />
    ),
  },
  taken_down: {
    colour: "faded",
    words: "taken down",
    draw: <path d="M2 6h8" stroke="currentColor" strokeWidth="2.2" />,
  },
  called_off: {
    colour: "faded",
    words: "called off",
    draw: <path d="M2.5 2.5l7 7m0-7l-7 7" stroke="currentColor" strokeWidth="1.8" />,
  },
};

export function stateWords(state: string): string {
  return STATES[state]?.words ?? state;
}

export function StateShape({ state, size = 12 }: { state: string; size?: number }) {
  const look = STATES[state] ?? STATES.unplanned;
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 12 12"
      style={{ flex: "none", color: `var(--m-colors-${look?.colour})` }}
      role="img"
      aria-label={look?.words}
    >
      {look?.draw}
    </svg>
  );
}
