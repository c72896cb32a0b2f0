import { Problem } from "@/api/client";
import { type Kind, useChanged } from "@/data/changes";
import { toast } from "./toasts";

/** Do something, tell what stood in the way, offer to undo it, and read again what it made old. What came of it, or undefined. */
export function useAction(brand: string, kinds: Kind[]) {
  const changed = useChanged(brand);
  return async <Came>(
    act: () => Promise<Came>,
    words?: string,
    undo?: () => Promise<void>,
  ): Promise<{ came: Came } | undefined> => {
    try {
      const came = await act();
      if (words) toast(words, { undo });
      return { came };
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.faults[0]?.detail ?? error.message, { wrong: true });
      return undefined;
    } finally {
      await changed(...kinds);
    }
  };
}
