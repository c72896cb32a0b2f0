import { createToaster } from "@chakra-ui/react";

const STAYS_MS = 10_000;

/** Short messages at the foot of the page, the newest last. */
export const toaster = createToaster({
  placement: "bottom-start",
  duration: STAYS_MS,
  gap: 8,
  offsets: { left: "16px", right: "16px", top: "16px", bottom: "calc(var(--foot, 0px) + 16px)" },
});
const AT_ONCE = 3;

type More = { wrong?: boolean; undo?: () => Promise<void> };
/** What can be undone still, by the messages that offer it, the newest last. */
let undoable: { id: string; undo: () => Promise<void> }[] = [];

/** One short message; `undo` makes it offer Undo. */
export function toast(words: string, { wrong, undo }: More = {}): void {
  // The newest is never kept waiting: the oldest makes room for it.
  for (const { id: older } of toaster.getVisibleToasts().slice(AT_ONCE - 1)) {
    if (older === undefined) continue;
    forget(older);
    toaster.remove(older);
  }
  const id = toaster.create({
    title: words,
    type: wrong ? "error" : "success",
    closable: true,
    action: undo && { label: "Undo", onClick: () => void undo() },
    onStatusChange: ({ status }) => status !== "visible" && forget(id),
  });
  if (undo) undoable.push({ id, undo });
}

function forget(id: string): void {
  undoable = undoable.filter((one) => one.id !== id);
}

/** Undo the newest thing that can be undone; false when there is none. */
export function undoNewest(): boolean {
  const newest = undoable.at(-1);
  if (!newest) return false;
  forget(newest.id);
  toaster.dismiss(newest.id);
  void newest.undo();
  return true;
}
