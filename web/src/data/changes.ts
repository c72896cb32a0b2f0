import { type Query, type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import type { CalendarWindow, Schemas } from "@/api/client";
import type { Piece } from "./calendar";
import { type BrandFamily, brandKey, type OwnFamily, ownKey, type QueryKey } from "./keys";

/** The kinds of things that change: those the live stream tells of, and those that only who changed them must know of. */
export type Kind =
  | "account"
  | "address"
  | "almanac"
  | "asset"
  | "assignment"
  | "attendance"
  | "brand"
  | "campaign"
  | "catalogue"
  | "connect-link"
  | "delivery"
  | "factor"
  | "feed"
  | "first-steps"
  | "installation"
  | "label"
  | "link-page"
  | "notice"
  | "people"
  | "post"
  | "post-saved"
  | "preferences"
  | "profile"
  | "relay"
  | "remarks"
  | "rota"
  | "saying"
  | "session"
  | "set"
  | "sign-link"
  | "starter"
  | "store"
  | "subscription"
  | "view";

/** A thing of a kind has changed (0: any number of them). Of a delivery also its post, its profile, and for when it is planned now (ISO);
 * of a post whether nothing of it stands, or stood, on the calendar or in a rota. */
export type Change = {
  kind: Kind;
  id: number;
  post?: number;
  profile?: number;
  at?: string | null;
  undated?: boolean;
};

/** What a change makes old: what lies under the key, and of that only what fits. */
type Stale = { key: QueryKey; fits?: (data: unknown, key: QueryKey) => boolean };
type Rule = BrandFamily | { own: OwnFamily } | ((brand: string, change: Change) => Stale);

const DAY_MS = 86_400_000;

/** The one thing of the family, or all of it when it isn't known which. */
const only =
  (family: BrandFamily, id: (change: Change) => number | undefined): Rule =>
  (brand, change) => ({ key: brandKey(family, brand, ...(id(change) ? [id(change)] : [])) });
const itself = (change: Change) => change.id;
const itsPost = (change: Change) => (change.id ? change.post : undefined);

/** A window of the calendar is old when it shows the delivery, or shows the day for which that is planned now. */
const windows: Rule = (brand, change) => ({
  key: brandKey("calendar", brand),
  fits: change.id && change.post ? (data) => shows(data, change) : undefined,
});

/** What shows only what stands on the calendar, or in a rota. */
const dated =
  (family: BrandFamily): Rule =>
  (brand, change) => ({ key: brandKey(family, brand), fits: change.undated ? () => false : undefined });

/** A window, or a piece of one, is old when it shows the post, or when its words, labels or campaign may make a filter let it in. */
const showings: Rule = (brand, change) => ({
  key: brandKey("calendar", brand),
  fits: change.id
    ? (data, key) => {
        const { tickets, profiles } = (data ?? {}) as Shown;
        if (change.undated) return false;
        if (!tickets || (!profiles && isNarrowed(key))) return true;
        return tickets.some((ticket) => ticket.post === change.id);
      }
    : undefined,
});

const isNarrowed = (key: QueryKey) =>
  key.some((part) => part instanceof Object && Object.values((part as Partial<Piece>).narrow ?? part).some(Boolean));

/** The tray holds the post or may be about to. */
const trays: Rule = (brand, { kind, id, post = id, at, undated }) => ({
  key: brandKey("tray", brand),
  fits: id
    ? (data) =>
        (kind === "delivery" ? !at : undated !== false) ||
        ((data ?? {}) as Partial<Schemas["TrayPage"]>).drafts?.some((draft) => draft.post === post) !== false
    : undefined,
});

/** A whole window, or a piece of one, which says its days by their number, and of which profiles it is, where it is of all their
 * cards. */
export type Shown = Partial<Pick<CalendarWindow, "tickets" | "gathered">> & {
  days?: CalendarWindow["days"] | number;
  first?: string;
  profiles?: number[];
};

function shows(data: unknown, change: Change): boolean {
  const { tickets, days, gathered, first, profiles } = (data ?? {}) as Shown;
  const begins = Date.parse(Array.isArray(days) ? (days[0]?.date ?? "") : (first ?? ""));
  const last = Array.isArray(days) ? Date.parse(days.at(-1)?.date ?? "") : begins + ((days ?? 1) - 1) * DAY_MS;
  // Of what is only counted nobody knows whether it was there.
  if (!tickets || Number.isNaN(begins) || gathered) return true;
  // A card says what becomes of its post's other deliveries too.
  if (tickets.some((shown) => shown.post === change.post)) return true;
  if (profiles && change.profile && !profiles.includes(change.profile)) return false;
  if (!change.at) return false;
  // The days are of the brand's zone, which is less than a day from UTC.
  const at = Date.parse(change.at);
  return at >= begins - DAY_MS && at < last + 2 * DAY_MS;
}

/** What a change of each kind makes old: the only place that says so, for others' changes and for one's own. */
const MADE_OLD: Record<Kind, Rule[]> = {
  account: [{ own: "me" }],
  address: [{ own: "addresses" }],
  almanac: ["almanac", "calendar"],
  asset: ["assets", "posts"],
  assignment: [{ own: "assigned" }],
  attendance: [only("attendance", itself)],
  brand: ["sheet", "sign-rules", "signoffs", "pending-signoffs", { own: "me" }],
  campaign: ["campaigns", "campaign-counts", "calendar", "tray"],
  catalogue: ["catalogues", "relays"],
  "connect-link": ["connect-links"],
  delivery: [
    only("deliveries", itself),
    only("posts", itsPost),
    only("signoffs", itsPost),
    "pending-signoffs",
    windows,
    trays,
    "strip",
    "today",
    "obstacles",
    "trouble",
    "listings",
    "history",
    "upcoming",
    "profile-counts",
    "campaign-counts",
    { own: "assigned" },
  ],
  factor: [{ own: "factors" }],
  feed: ["feeds", "shelf", "relays"],
  "first-steps": ["first-steps"],
  installation: [{ own: "installation" }, { own: "public-status" }],
  label: ["labels", "rotas", "calendar", "tray", "assets"],
  "link-page": [{ own: "link-page" }],
  notice: [{ own: "notices" }, { own: "assigned" }],
  people: ["people", { own: "me" }],
  post: [
    only("posts", itself),
    only("talk", itself),
    only("signoffs", itself),
    "pending-signoffs",
    "deliveries",
    "bin",
    showings,
    trays,
    dated("strip"),
    "today",
    dated("rotas"),
    dated("upcoming"),
    "history",
    "campaigns",
    "campaign-counts",
    { own: "assigned" },
  ],
  // Saved at its Bench, which shows it as it stands.
  "post-saved": ["calendar", "tray"],
  preferences: [{ own: "preferences" }],
  profile: [
    "profiles",
    "profile-counts",
    "networks",
    "sets",
    "connect-links",
    "obstacles",
    "calendar",
    "tray",
    "strip",
    "today",
    "rotas",
    "upcoming",
  ],
  relay: ["relays"],
  remarks: [only("talk", itself), only("signoffs", itself), "pending-signoffs", { own: "assigned" }],
  rota: ["rotas", "upcoming", "calendar", "tray"],
  saying: ["sayings"],
  session: [{ own: "sessions" }],
  set: ["sets", "calendar", "tray"],
  "sign-link": ["sign-links", "sign-rules"],
  starter: ["starters"],
  store: ["stores"],
  subscription: ["subscriptions"],
  view: ["views"],
};

function staleBy(brand: string, change: Change): Stale[] {
  return (MADE_OLD[change.kind] ?? []).map((rule) => {
    if (typeof rule === "function") return rule(brand, change);
    return { key: typeof rule === "string" ? brandKey(rule, brand) : ownKey(rule.own) };
  });
}

/** Of everything that was read, what these changes have made old. */
export function staleQueries(queries: QueryClient, brand: string, changes: Change[]): Set<Query> {
  const cache = queries.getQueryCache();
  const stale = changes.flatMap((change) => staleBy(brand, change));
  return new Set(
    stale.flatMap(({ key, fits }) =>
      cache.findAll({
        queryKey: key,
        predicate: (query) => !fits || fits(query.state.data, query.queryKey as QueryKey),
      }),
    ),
  );
}

/**
 * Read again what changes have made old, each thing once. What is being read for the first time just now may have been
 * read before the change, and isn't begun anew by itself: it is read once more when it has come.
 */
export async function renew(queries: QueryClient, brand: string, changes: Change[]): Promise<void> {
  const stale = staleQueries(queries, brand, changes);
  for (const query of stale) {
    if (query.state.fetchStatus !== "fetching" || query.state.data !== undefined) continue;
    const again = () => queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
    query.promise?.then(again, () => undefined);
  }
  await queries.invalidateQueries({ predicate: (query) => stale.has(query) });
}

/** After a break in the line nobody knows what changed: every kind may have. */
export const ANYTHING: Change[] = (Object.keys(MADE_OLD) as Kind[]).map((kind) => ({ kind, id: 0 }));

/** For who has changed something himself: everything of these kinds that is shown is read again. */
export function useChanged(brand = ""): (...changed: (Kind | Change)[]) => Promise<void> {
  const queries = useQueryClient();
  return useMemo(
    () =>
      (...changed) =>
        renew(
          queries,
          brand,
          changed.map((one) => (typeof one === "string" ? { kind: one, id: 0 } : one)),
        ),
    [queries, brand],
  );
}

/** Everything may be otherwise: another person is signed in, or a brand's zone changed. */
export function useReadAll(): () => Promise<void> {
  const queries = useQueryClient();
  return () => queries.invalidateQueries();
}
