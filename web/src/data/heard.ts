import type { Query, QueryClient } from "@tanstack/react-query";
import { type Change, type Shown, staleQueries } from "./changes";
import type { BrandFamily } from "./keys";

/** What one has in front of oneself, which is read again soon after others changed it. */
const NEAR: ReadonlySet<unknown> = new Set<BrandFamily>(["calendar", "deliveries", "posts", "signoffs", "talk"]);
/** So many times as long as reading it took, a thing rests at least. */
const LEAST_TIMES = 10;
/** For how much of the server's time, in hundredths, all who listen may read one thing together while its changes never end. */
const SHARES = { near: 50, counted: 20, around: 10 };
const COUNTED_LEAST_MS = 2000;
const MOST_MS = 20_000;

const queued = new WeakSet<Query>();
const tookMs = new WeakMap<Query, number>();

/**
 * Read again what others' changes have made old. They come as fast as they like: what is being read is read once more when it has come,
 * and not begun anew over and over; then it rests, by how long it took and how many listen.
 */
export function renewHeard(queries: QueryClient, brand: string, changes: Change[], listeners = 1): void {
  for (const query of staleQueries(queries, brand, changes)) readSoon(queries, query, listeners);
}

function readSoon(queries: QueryClient, query: Query, listeners: number): void {
  if (queued.has(query)) return;
  const { fetchStatus, dataUpdatedAt, errorUpdatedAt } = query.state;
  // What failed rests, too: a server that has too much to do isn't asked all the more.
  const rest = Math.max(dataUpdatedAt, errorUpdatedAt) + restMs(query, listeners) - Date.now();
  const later = () => {
    queued.delete(query);
    readSoon(queries, query, listeners);
  };
  if (fetchStatus === "fetching" && query.promise) query.promise.then(later, later);
  else if (rest > 0) setTimeout(later, rest);
  else {
    const began = Date.now();
    const read = queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
    if (query.state.fetchStatus === "fetching") void read.finally(() => noteTook(query, Date.now() - began));
    return;
  }
  queued.add(query);
}

/** One slow answer isn't how long it takes. */
function noteTook(query: Query, took: number): void {
  tookMs.set(query, Math.min(took, 2 * (tookMs.get(query) ?? took)));
}

function restMs(query: Query, listeners: number): number {
  const counted = Boolean((query.state.data as Shown | undefined)?.gathered);
  const share = counted ? SHARES.counted : NEAR.has(query.queryKey[0]) ? SHARES.near : SHARES.around;
  const took = tookMs.get(query) ?? 0;
  const byTime = Math.max(LEAST_TIMES * took, (took * listeners * 100) / share);
  return Math.min(Math.max(byTime, counted ? COUNTED_LEAST_MS : 0), MOST_MS);
}
