import type { Query, QueryClient } from "@tanstack/react-query";
import { inBackground } from "@/api/background";
import { type Change, type Shown, staleQueries } from "./changes";
import type { BrandFamily } from "./keys";
import { changedPart, isWhole, joined, type Part, readLanes } from "./lanes";

/** What one has in front of oneself, which is read again soon after others changed it. */
const NEAR: ReadonlySet<unknown> = new Set<BrandFamily>([
  "calendar",
  "deliveries",
  "posts",
  "signoffs",
  "talk",
  "tray",
]);
/** So many times as long as reading it took, a thing rests at least. */
const LEAST_TIMES = 10;
/** For how much of the server's time, in hundredths, all who listen may read one thing together while its changes never end. What lies
 * in front changes as one looks on; there are several things around it. */
const SHARES = { near: 50, counted: 5, around: 5 };
const COUNTED_LEAST_MS = 2000;
/** Nothing rests for longer; what isn't in front, where many listen, than so long for each of them. */
const MOST_MS = 20_000;
const MOST_MS_EACH = 1000;

/** So many are read at once: they wait long where much is asked, and a browser opens six lines to a server, which what people do needs. */
const MOST_AT_ONCE = 2;

/** What of each is to be read again when it has rested. */
const waiting = new WeakMap<Query, Part>();
const NOTHING: Part = new Set();
const tookMs = new WeakMap<Query, number>();
const readings = new WeakMap<QueryClient, Set<Promise<void>>>();

/**
 * Read again what others' changes have made old. They come as fast as they like: what is being read is read once more when it has come,
 * and not begun anew over and over; then it rests, by how long it took and how many listen.
 */
export function renewHeard(queries: QueryClient, brand: string, changes: Change[], listeners = 1): void {
  const old = new Map<Query, Part>();
  for (const change of changes)
    for (const query of staleQueries(queries, brand, [change]))
      old.set(query, joined(old.get(query) ?? NOTHING, changedPart(query, change)));
  for (const [query, part] of old) {
    const already = waiting.get(query);
    if (already) waiting.set(query, joined(already, part));
    else readSoon(queries, query, part, listeners);
  }
}

function readSoon(queries: QueryClient, query: Query, part: Part, listeners: number): void {
  const { fetchStatus, dataUpdatedAt, errorUpdatedAt } = query.state;
  // What failed rests, too: a server that has too much to do isn't asked all the more.
  const rest = Math.max(dataUpdatedAt, errorUpdatedAt) + restMs(query, listeners) - Date.now();
  const reading = readings.get(queries) ?? new Set();
  const later = () => {
    const now = waiting.get(query) ?? part;
    waiting.delete(query);
    readSoon(queries, query, now, listeners);
  };
  if (fetchStatus === "fetching" && query.promise) {
    waiting.set(query, part);
    query.promise.then(later, later);
  } else if (rest > 0) {
    waiting.set(query, part);
    setTimeout(later, rest);
  } else if (!query.isActive()) {
    // Nobody shows it: whoever does next reads it then.
    void queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
  } else if (reading.size >= MOST_AT_ONCE) {
    waiting.set(query, part);
    void Promise.race(reading).then(later);
  } else if (isWhole(query, part)) {
    note(queries, reading, readWhole(queries, query));
  } else {
    waiting.set(query, NOTHING);
    note(queries, reading, readPart(queries, query, part, listeners));
  }
}

/** Neither of the readings fails: what went wrong is the query's to say. */
function note(queries: QueryClient, reading: Set<Promise<void>>, read: Promise<void>): void {
  readings.set(queries, reading.add(read));
  void read.then(() => reading.delete(read));
}

async function readWhole(queries: QueryClient, query: Query): Promise<void> {
  const began = Date.now();
  await inBackground(() => queries.invalidateQueries({ queryKey: query.queryKey, exact: true }));
  noteTook(query, Date.now() - began);
}

async function readPart(
  queries: QueryClient,
  query: Query,
  part: ReadonlySet<number>,
  listeners: number,
): Promise<void> {
  const began = Date.now();
  let left: Part = part;
  try {
    if (await inBackground(() => readLanes(queries, query, part))) left = NOTHING;
    noteTook(query, Date.now() - began);
  } catch {
    // What can't be had in part is read whole: what is wrong is shown then.
    left = "all";
  }
  const now = joined(left, waiting.get(query) ?? NOTHING);
  waiting.delete(query);
  if (now === "all" || now.size) readSoon(queries, query, now, listeners);
}

/** One slow answer isn't how long it takes. */
function noteTook(query: Query, took: number): void {
  tookMs.set(query, Math.min(took, 2 * (tookMs.get(query) ?? took)));
}

function restMs(query: Query, listeners: number): number {
  const counted = Boolean((query.state.data as Shown | undefined)?.gathered);
  const near = NEAR.has(query.queryKey[0]) && !counted;
  const share = counted ? SHARES.counted : near ? SHARES.near : SHARES.around;
  const took = tookMs.get(query) ?? 0;
  const byTime = Math.max(LEAST_TIMES * took, (took * listeners * 100) / share);
  const most = near ? MOST_MS : Math.max(MOST_MS, MOST_MS_EACH * listeners);
  return Math.min(Math.max(byTime, counted ? COUNTED_LEAST_MS : 0), most);
}
