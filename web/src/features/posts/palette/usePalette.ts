import { type KeyboardEvent, type RefObject, useRef, useState } from "react";

/** One thing that can be inserted: text in place of what was typed, or the whole text anew. */
export type Insert = {
  key: string;
  shown: string;
  about: string;
  text?: string;
  whole?: (text: string) => Promise<string>;
  act?: () => void;
};

const CALL = /(?:^|\s)\/([^\s/]{0,40})$/;

export type PaletteState = ReturnType<typeof usePalette>;

/** The insert palette of a text field: opened by “/” at a word's start, closed by escape or by going on. */
export function usePalette(area: RefObject<HTMLTextAreaElement | null>, value: string, change: (text: string) => void) {
  const [words, setWords] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const found = useRef<Insert[]>([]);
  const start = useRef(0);

  function typed(field: HTMLTextAreaElement) {
    const before = field.value.slice(0, field.selectionStart);
    const call = CALL.exec(before);
    if (call) start.current = before.length - (call[1]?.length ?? 0) - 1;
    setWords(call ? (call[1] ?? "") : null);
    setAt(0);
  }

  async function take(insert: Insert) {
    const field = area.current;
    const caret = field?.selectionStart ?? value.length;
    const before = value.slice(0, start.current);
    const after = value.slice(caret);
    setWords(null);
    if (insert.act) {
      change(before + after);
      insert.act();
      return;
    }
    const text = insert.text ?? "";
    const next = insert.whole ? await insert.whole((before + after).trimEnd()) : before + text + after;
    change(next);
    const place = insert.whole ? next.length : before.length + text.length;
    requestAnimationFrame(() => {
      field?.focus();
      field?.setSelectionRange(place, place);
    });
  }

  function keyDown(event: KeyboardEvent) {
    if (words === null || event.ctrlKey || event.altKey || event.metaKey) return;
    const list = found.current;
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setAt((at + (event.key === "ArrowDown" ? 1 : list.length - 1)) % Math.max(list.length, 1));
    } else if ((event.key === "Enter" || event.key === "Tab") && list[at]) {
      event.preventDefault();
      void take(list[at]);
    } else if (event.key === "Escape") {
      event.preventDefault();
      event.stopPropagation();
      setWords(null);
    }
  }
  /** Put something where the caret is, without a “/”. */
  function insert(text: string) {
    const field = area.current;
    const from = field?.selectionStart ?? value.length;
    const to = field?.selectionEnd ?? from;
    change(value.slice(0, from) + text + value.slice(to));
    requestAnimationFrame(() => {
      // A panel that is open keeps the focus: taking it away would close it.
      if (!document.querySelector('[role="dialog"][data-state="open"]')) field?.focus();
      field?.setSelectionRange(from + text.length, from + text.length);
    });
  }
  const blur = () => setTimeout(() => document.activeElement !== area.current && setWords(null), 150);
  return { open: words !== null, words: words ?? "", at, setAt, found, typed, take, keyDown, blur, insert };
}
