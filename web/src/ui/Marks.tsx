/** Small marks, drawn: a letter from an emoji font would bring colours of its own. */
const look = {
  width: "1em",
  height: "1em",
  viewBox: "0 0 16 16",
  "aria-hidden": true,
  style: { display: "inline-block", verticalAlign: "-0.12em" },
} as const;

export const Scissors = () => (
  <svg {...look} fill="none" stroke="currentColor" strokeWidth="1.5" strokeLinecap="round">
    <title>cut</title>
    <circle cx="4" cy="4" r="2.2" />
    <circle cx="4" cy="12" r="2.2" />
    <path d="M6 5.2 14 12M6 10.8 14 4" />
  </svg>
);

export const Play = () => (
  <svg {...look} fill="currentColor">
    <title>plays</title>
    <path d="M4 2.5v11l9-5.5z" />
  </svg>
);

export const Pen = () => (
  <svg {...look} fill="none" stroke="currentColor" strokeWidth="1.5" strokeLinejoin="round">
    <title>write</title>
    <path d="m3 13 .8-3.2L11 2.6l2.4 2.4-7.2 7.2z" />
  </svg>
);
