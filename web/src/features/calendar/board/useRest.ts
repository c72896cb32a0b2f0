import { useEffect, useRef } from "react";

const RESTS_MS = 450;

/** A card rested on, by pointer or by keyboard, is peeked at after a moment; left, it isn't. */
export function useRest(peek: (at: HTMLElement | null) => void) {
  const timer = useRef<number | undefined>(undefined);
  const at = useRef<HTMLElement | null>(null);
  useEffect(() => () => globalThis.clearTimeout(timer.current), []);
  return {
    onPointerOver: (event: React.PointerEvent) => {
      const card = (event.target as HTMLElement).closest<HTMLElement>("[data-ticket]");
      if (card === at.current || event.pointerType === "touch") return;
      at.current = card;
      globalThis.clearTimeout(timer.current);
      if (card) timer.current = globalThis.setTimeout(() => peek(card), RESTS_MS) as unknown as number;
      else timer.current = globalThis.setTimeout(() => peek(null), 200) as unknown as number;
    },
    onFocus: (event: React.FocusEvent) => {
      const card = (event.target as HTMLElement).closest<HTMLElement>("[data-ticket]:focus-visible");
      globalThis.clearTimeout(timer.current);
      if (card) timer.current = globalThis.setTimeout(() => peek(card), RESTS_MS) as unknown as number;
      else peek(null);
    },
    // Whoever presses a key, as to put the peek away, rests no more.
    onKeyDownCapture: () => globalThis.clearTimeout(timer.current),
    onPointerDown: () => {
      globalThis.clearTimeout(timer.current);
      peek(null);
    },
    onPointerLeave: () => {
      globalThis.clearTimeout(timer.current);
      at.current = null;
      timer.current = globalThis.setTimeout(() => peek(null), 200) as unknown as number;
    },
  };
}
