import { useSyncExternalStore } from "react";

/** One short message at the foot of the page; `undo` makes it offer Undo. */
export type Notice = { id: number; words: string; wrong?: boolean; undo?: () => Promise<void> };

let notices: Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();
const STAYS = 10_000;

function set(changed: Notice[]) {
  notices = changed;
  for (const listener of listeners) listener();
}

export function say(words: string, more: Omit<Notice, "id" | "words"> = {}): void {
  const id = next++;
  set([...notices.slice(-2), { id, words, ...more }]);
  setTimeout(() => dismiss(id), STAYS);
}

export function dismiss(id: number): void {
  set(notices.filter((notice) => notice.id !== id));
}

/** Undo the newest thing that can be undone; false when there is none. */
export function undoNewest(): boolean {
  const newest = notices.findLast((notice) => notice.undo);
  if (!newest?.undo) return false;
  dismiss(newest.id);
  void newest.undo();
  return true;
}

export function useNotices(): Notice[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => notices,
  );
}
