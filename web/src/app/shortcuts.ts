import { useEffect } from "react";

export type Shortcuts = Record<string, (event: KeyboardEvent) => void>;

/** Whether keys are being typed into something, and are not ours to take. */
function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Single-key commands of a page; silent while one types, with a modifier, or above an open dialog. */
export function useShortcuts(keys: Shortcuts): void {
  useEffect(() => {
    function press(event: KeyboardEvent) {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      if (document.querySelector('[role="dialog"][data-state="open"]')) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act(event);
    }
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [keys]);
}
