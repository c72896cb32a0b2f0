import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Query, type Schemas, type Ticket, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

const NO_FILTER = {
  sets: "",
  profiles: "",
  networks: "",
  states: "",
  labels: "",
  campaigns: "",
  people: "",
  words: "",
};
/** What narrows a window, each in the API's spelling. */
export type Filters = Partial<typeof NO_FILTER>;
/** By what cards are counted where there are more than can be read. */
export type Gather = "profile" | "network" | "hour";
/** Some of a window's cards: those of `days` days from `first`, counted from the window's own first, `origin`, that a filter leaves. */
export type Piece = { origin: string; first: string; days: number; narrow: Filters; marks: boolean };

export const calendarQueries = {
  /** A window: which days, and what narrows it. */
  window: (brand: string, first: string | undefined, days: number, narrow: Filters, gather: Gather) =>
    queryOptions({
      queryKey: brandKey("calendar", brand, first ?? "today", days, narrow, gather),
      queryFn: () => fetchCalendar(brand, { ...NO_FILTER, first, days, ...narrow, gather }),
      placeholderData: keepPreviousData,
    }),
  /** A piece of a window that has more cards than can be read: all its cards, page after page. */
  cards: (brand: string, piece: Piece) =>
    queryOptions({ queryKey: brandKey("calendar", brand, "cards", piece), queryFn: () => fetchPiece(brand, piece) }),
  /** The first few hundred cards from today on that a filter leaves. */
  firstCards: (brand: string, days: number, narrow: Filters) =>
    queryOptions({
      queryKey: brandKey("calendar", brand, "first-cards", days, narrow),
      queryFn: () => fetchCards(brand, { ...NO_FILTER, ...narrow, days, after: "", marks: false }),
      placeholderData: keepPreviousData,
    }),
  /** Drafts without a date. */
  tray: (brand: string, narrow: Filters) =>
    queryOptions({
      queryKey: brandKey("tray", brand, narrow),
      queryFn: () => fetchTray(brand, { ...NO_FILTER, ...narrow }),
      placeholderData: keepPreviousData,
    }),
  /** What each delivery of a window says, in full. */
  plannedTexts: (brand: string, first: string | undefined, days: number, narrow: Filters) =>
    infiniteQueryOptions({
      queryKey: brandKey("calendar", brand, "planned", first ?? "today", days, narrow),
      queryFn: ({ pageParam: after }) => fetchPlannedTexts(brand, { ...NO_FILTER, first, days, ...narrow, after }),
      initialPageParam: 0,
      getNextPageParam: (page: Schemas["FullTextPage"]) => page.next,
    }),
  /** Gaps, crowding and repetition, each with a proposed time. */
  spacing: (brand: string, first: string | undefined, days: number, narrow: Filters) =>
    infiniteQueryOptions({
      queryKey: brandKey("calendar", brand, "spacing", first ?? "today", days, narrow),
      queryFn: ({ pageParam: after }) => fetchSpacing(brand, { ...NO_FILTER, first, days, ...narrow, after }),
      initialPageParam: 0,
      getNextPageParam: (page: Schemas["AdvicePage"]) => page.next,
    }),
  grid: (brand: string, profile: number) =>
    queryOptions({
      queryKey: brandKey("calendar", brand, "grid", profile),
      queryFn: () => fetchGridProof(brand, profile),
      enabled: Number.isInteger(profile),
    }),
  peek: (brand: string, post: number | undefined) =>
    queryOptions({
      queryKey: brandKey("posts", brand, post, "peek"),
      queryFn: () => fetchPeek(brand, post ?? 0),
      enabled: post !== undefined,
      staleTime: 10_000,
    }),
  allBrands: (first: string | undefined) =>
    queryOptions({
      queryKey: ownKey("all-brands", first ?? "today"),
      queryFn: () => fetchAllBrands({ first, days: 14 }),
      refetchInterval: 30_000,
      placeholderData: keepPreviousData,
    }),
  strip: (brand: string, every: number) =>
    queryOptions({ queryKey: brandKey("strip", brand), queryFn: () => fetchStrip(brand), refetchInterval: every }),
  today: (brand: string) =>
    queryOptions({ queryKey: brandKey("today", brand), queryFn: () => fetchToday(brand), refetchInterval: 60_000 }),
  assigned: () => queryOptions({ queryKey: ownKey("assigned"), queryFn: fetchAssigned, refetchInterval: 60_000 }),
  views: (brand: string) =>
    queryOptions({ queryKey: brandKey("views", brand), queryFn: () => fetchViews(brand), staleTime: 60_000 }),
  subscriptions: (brand: string) =>
    queryOptions({ queryKey: brandKey("subscriptions", brand), queryFn: () => fetchSubscriptions(brand) }),
  almanac: (brand: string) =>
    queryOptions({ queryKey: brandKey("almanac", brand), queryFn: () => fetchAlmanac(brand) }),
};

/** The next 24 hours. */
const fetchStrip = (brand: string) => unwrap(api.GET("/api/brands/{brand}/strip", { params: { path: { brand } } }));

/** What waits on me in every brand of mine, the most urgent first. */
const fetchAssigned = () => unwrap(api.GET("/api/assigned"));

/** The calendar across all my brands, each in its own zone. */
const fetchAllBrands = (query: Query<"allBrands">) => unwrap(api.GET("/api/calendar", { params: { query } }));

/** A photo profile's page as it will be. */
const fetchGridProof = (brand: string, profileId: number) =>
  unwrap(
    api.GET("/api/brands/{brand}/profiles/{profile_id}/grid", { params: { path: { brand, profile_id: profileId } } }),
  );

/** Let two posts of one profile change places: their times swap. */
export const swapTimes = (brand: string, body: Schemas["SwapIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/swaps", { params: { path: { brand } }, body }));

/** What a card says without opening it: each network's wording, media, states, findings, and who. */
const fetchPeek = (brand: string, postId: number) =>
  unwrap(api.GET("/api/brands/{brand}/posts/{post_id}/peek", { params: { path: { brand, post_id: postId } } }));

/** A window of the calendar, by default 14 days from today in the brand's zone. */
const fetchCalendar = (brand: string, query: Query<"calendar">) =>
  unwrap(api.GET("/api/brands/{brand}/calendar", { params: { path: { brand }, query } }));

/** The drafts that were changed last, and how many there are. */
const fetchTray = (brand: string, query: Query<"tray">) =>
  unwrap(api.GET("/api/brands/{brand}/tray", { params: { path: { brand }, query } }));

/** The cards of a window, earliest first, a page at a time. */
const fetchCards = (brand: string, query: Query<"cards">) =>
  unwrap(api.GET("/api/brands/{brand}/calendar/cards", { params: { path: { brand }, query } }));

/** Every card of a piece, with the piece's days, and its profiles where it is of all that those have. */
export async function fetchPiece(brand: string, { narrow, ...piece }: Piece) {
  const tickets: Ticket[] = [];
  const marks: Schemas["LaneMarksOut"][] = [];
  let after: string | null = "";
  while (after !== null) {
    const page: Schemas["CardsOut"] = await fetchCards(brand, { ...NO_FILTER, ...narrow, ...piece, after });
    tickets.push(...page.tickets);
    marks.push(...page.marks);
    after = page.next;
  }
  const { profiles, ...others } = narrow;
  const whole = Object.values(others).every((one) => !one);
  return {
    tickets,
    marks,
    first: piece.first,
    days: piece.days,
    profiles: whole ? profiles?.split(",").map(Number) : undefined,
  };
}

/** What each delivery of the window says, in full. */
const fetchPlannedTexts = (brand: string, query: Query<"plannedTexts">) =>
  unwrap(api.GET("/api/brands/{brand}/plan", { params: { path: { brand }, query } }));

/** Gaps, crowding and repetition among what is still to come, each with why and a proposed time. */
const fetchSpacing = (brand: string, query: Query<"spacing">) =>
  unwrap(api.GET("/api/brands/{brand}/calendar/advice", { params: { path: { brand }, query } }));

/** One's own kept views, and those others share. */
const fetchViews = (brand: string) => unwrap(api.GET("/api/brands/{brand}/views", { params: { path: { brand } } }));

/** The addresses at which other programs read the calendar: one's own, and with the right to manage people all. */
const fetchSubscriptions = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/subscriptions", { params: { path: { brand } } }));

/** Which days worth a post the brand sees, and all there are to choose from. */
const fetchAlmanac = (brand: string) => unwrap(api.GET("/api/brands/{brand}/almanac", { params: { path: { brand } } }));

/** Keep a view and its filter under a name, over one's own of that name. */
export const saveView = (brand: string, body: Schemas["ViewIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/views", { params: { path: { brand } }, body }));

/** Delete a kept view. */
export const deleteView = (brand: string, viewId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/views/{view_id}", { params: { path: { brand, view_id: viewId } } }));

/** The morning page: what goes out, what waits for a person, what is in trouble. */
const fetchToday = (brand: string) => unwrap(api.GET("/api/brands/{brand}/today", { params: { path: { brand } } }));

/** Make a secret address. It is told this once. */
export const subscribe = (brand: string, body: Schemas["SubscribeIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/subscriptions", { params: { path: { brand } }, body }));

/** Revoke an address. */
export const unsubscribe = (brand: string, subscriptionId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/subscriptions/{subscription_id}", {
      params: { path: { brand, subscription_id: subscriptionId } },
    }),
  );

/** Choose countries and observances. */
export const saveAlmanac = (brand: string, body: Schemas["AlmanacIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/almanac", { params: { path: { brand } }, body }));

/** A date of the brand's own. */
export const createDate = (brand: string, body: Schemas["CustomDateIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/almanac/dates", { params: { path: { brand } }, body }));

/** Delete a date of the brand's own. */
export const deleteDate = (brand: string, dateId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/almanac/dates/{date_id}", { params: { path: { brand, date_id: dateId } } }));
