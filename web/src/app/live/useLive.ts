import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { LiveLine, type Message } from "./LiveLine";

/** What a change of each kind makes old. */
const DROPS: Record<string, string[]> = {
  delivery: [
    "trouble",
    "listings",
    "history",
    "signing",
    "waiting",
    "calendar",
    "strip",
    "post",
    "profiles",
    "standing",
    "today",
    "campaigns",
  ],
  post: ["rotas", "coming", "history", "signing", "waiting", "talk", "calendar", "strip", "post", "today", "campaigns"],
  profile: ["rotas", "coming", "profiles", "calendar", "standing", "networks", "links"],
  set: ["sets", "calendar"],
  people: ["people"],
  brand: ["sheet", "sign-rules", "signing"],
  notice: ["notices", "waiting"],
  remarks: ["talk", "waiting", "signing"],
  asset: ["post", "library"],
  saying: ["sayings"],
  store: ["stores"],
  label: ["rotas", "labels", "calendar"],
  campaign: ["campaigns", "calendar"],
  almanac: ["almanac", "calendar"],
  view: ["views"],
  attendance: ["attendance"],
  rota: ["rotas", "coming", "calendar"],
  relay: ["relays"],
  feed: ["feeds", "shelf", "relays"],
  catalogue: ["catalogues", "relays"],
  starter: ["starters"],
};
// After a break in the line everything of the brand is read again.
const ALL = [...new Set(Object.values(DROPS).flat())];
const GATHER_MS = 120;

/**
 * Read again what a change has made old. What is being read for the first time just now may have been read before the
 * change, and isn't begun anew by itself: it is read once more when it has come.
 */
function renew(queries: QueryClient, queryKey: string[]): void {
  const first = queries
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: "fetching" })
    .filter((query) => query.state.data === undefined);
  for (const query of first) {
    const again = () => queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
    query.promise?.then(again, () => undefined);
  }
  void queries.invalidateQueries({ queryKey });
}

/** Listen to the brand's live stream, and drop what others' changes have made old. */
export function useLive(brand: string): void {
  const queries = useQueryClient();
  useEffect(() => {
    const stale = new Set<string>();
    let timer: number | undefined;
    const drop = () => {
      timer = undefined;
      // These two are of the person, not of a brand.
      for (const own of ["notices", "waiting"])
        if (stale.delete(own)) void queries.invalidateQueries({ queryKey: [own] });
      if (stale.has("people") || stale.has("sheet")) void queries.invalidateQueries({ queryKey: ["me"] });
      for (const key of stale) renew(queries, [key, brand]);
      stale.clear();
    };
    const hear = (message: Message) => {
      for (const key of message === "broken" ? ALL : (DROPS[message.kind] ?? [])) stale.add(key);
      timer ??= window.setTimeout(drop, GATHER_MS);
    };
    const line = new LiveLine(brand, hear);
    return () => {
      line.close();
      window.clearTimeout(timer);
    };
  }, [brand, queries]);
}
