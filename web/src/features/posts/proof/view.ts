import { useSyncExternalStore } from "react";

/** How proofs are looked at, in every column alike; kept in the browser. */
export type ProofView = { dark: boolean; wide: boolean };

const KEY = "menudo-proof-view";
const listeners = new Set<() => void>();
let view: ProofView = read();

function read(): ProofView {
  try {
    return { dark: false, wide: false, ...JSON.parse(localStorage.getItem(KEY) ?? "{}") };
  } catch {
    return { dark: false, wide: false };
  }
}

export function setProofView(more: Partial<ProofView>): void {
  view = { ...view, ...more };
  localStorage.setItem(KEY, JSON.stringify(view));
  for (const listener of listeners) listener();
}

export function useProofView(): ProofView {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => view,
  );
}
