import { startTransition, useCallback, useLayoutEffect, useRef, useState } from "react";

/**
 * A text that is being typed: shown at once, and told to the draft as soon as there is time, so that nine columns never
 * hold up a key. What comes back of one's own is known; what comes from elsewhere is taken over.
 */
export function useTypedText(value: string, change: (text: string) => void) {
  const [text, setText] = useState(value);
  const told = useRef<string[]>([]);
  const seen = useRef(value);
  // Only what has been committed counts: a draft that is still being drawn may be thrown away again.
  useLayoutEffect(() => {
    if (value === seen.current) return;
    seen.current = value;
    const at = told.current.lastIndexOf(value);
    told.current = at < 0 ? [] : told.current.slice(at + 1);
    if (at < 0) setText(value);
  }, [value]);
  const type = useCallback(
    (next: string) => {
      told.current.push(next);
      setText(next);
      startTransition(() => change(next));
    },
    [change],
  );
  return [text, type] as const;
}
