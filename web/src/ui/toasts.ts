import { useSyncExternalStore } from "react";

/** One short message at the foot of the page; `undo` makes it offer Undo. */
export type Toast = { id: number; words: string; wrong?: boolean; undo?: () => Promise<void> };

let notices: Toast[] = [];
let next = 1;
const listeners = new Set<() => void>();
const STAYS = 10_000;

function set(changed: Toast[]) {
  notices = changed;
  for (const listener of listeners) listener();
}

export function toast(words: string, more: Omit<Toast, "id" | "words"> = {}): void {
  const id = next++;
  set([...notices.slice(-2), { id, words, ...more }]);
  setTimeout(() => dismissToast(id), STAYS);
}

export function dismissToast(id: number): void {
  set(notices.filter((notice) => notice.id !== id));
}

/** Undo the newest thing that can be undone; false when there is none. */
export function undoNewest(): boolean {
  const newest = notices.findLast((notice) => notice.undo);
  if (!newest?.undo) return false;
  dismissToast(newest.id);
  void newest.undo();
  return true;
}

export function useToasts(): Toast[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => notices,
  );
}
