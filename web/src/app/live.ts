import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

type Change = { kind: string; id: number };

/** What a change of each kind makes old. */
const DROPS: Record<string, string[]> = {
  delivery: ["calendar", "strip", "post", "profiles", "standing", "today"],
  post: ["calendar", "strip", "post", "today"],
  profile: ["profiles", "calendar", "standing", "networks", "links"],
  set: ["sets", "calendar"],
  people: ["people"],
  brand: ["sheet"],
  notice: ["notices"],
  asset: ["post"],
};
const GATHER_MS = 120;

/** Listen to the brand's live stream, and drop what others' changes have made old. */
export function useLive(brand: string): void {
  const queries = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/live/${brand}`);
    const stale = new Set<string>();
    let timer: number | undefined;
    let opened = false;
    const drop = () => {
      timer = undefined;
      if (stale.delete("notices")) void queries.invalidateQueries({ queryKey: ["notices"] });
      if (stale.has("people") || stale.has("sheet")) void queries.invalidateQueries({ queryKey: ["me"] });
      for (const key of stale) void queries.invalidateQueries({ queryKey: [key, brand] });
      stale.clear();
    };
    const gather = (keys: string[]) => {
      for (const key of keys) stale.add(key);
      timer ??= window.setTimeout(drop, GATHER_MS);
    };
    source.addEventListener("change", (event) => gather(DROPS[(JSON.parse(event.data) as Change).kind] ?? []));
    // After a break in the line, what was missed is not known: everything of the brand is read again.
    source.addEventListener("ready", () => {
      if (opened) gather(["calendar", "strip", "post", "profiles", "standing", "today", "notices"]);
      opened = true;
    });
    return () => {
      source.close();
      window.clearTimeout(timer);
    };
  }, [brand, queries]);
}
