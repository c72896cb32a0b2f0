import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

export const postQueries = {
  post: (brand: string, id: number | null) =>
    queryOptions({
      queryKey: brandKey("posts", brand, id),
      queryFn: () => fetchPost(brand, id ?? 0),
      enabled: id !== null,
    }),
  history: (brand: string, id: number) =>
    queryOptions({
      queryKey: brandKey("posts", brand, id, "history"),
      queryFn: () => fetchPostHistory(brand, id),
      gcTime: 0,
    }),
  /** The times that the profiles would get. */
  times: (brand: string, id: number | null, revision: number, when: Schemas["WhenIn"]) =>
    queryOptions({
      queryKey: brandKey("posts", brand, id, "times", revision, when),
      queryFn: () => times(brand, id ?? 0, { when, profiles: null }),
      retry: false,
    }),
  delivery: (brand: string, id: number | undefined) =>
    queryOptions({
      queryKey: brandKey("deliveries", brand, id),
      queryFn: () => fetchDelivery(brand, id ?? 0),
      enabled: id !== undefined,
    }),
  bin: (brand: string) => queryOptions({ queryKey: brandKey("bin", brand), queryFn: () => fetchBin(brand) }),
  /** What each network says of a post that is being written. */
  check: (brand: string, body: Schemas["CheckIn"], key: string) =>
    queryOptions({
      queryKey: brandKey("check", brand, key),
      queryFn: ({ signal }) => check(brand, body, signal),
      placeholderData: keepPreviousData,
      gcTime: 10_000,
    }),
  /** Says that one has the post open, and asks who else has. */
  attendance: (brand: string, id: number | null) =>
    queryOptions({
      queryKey: brandKey("attendance", brand, id),
      queryFn: () => attendPost(brand, id ?? 0),
      enabled: id !== null,
      refetchInterval: 15_000,
      refetchIntervalInBackground: true,
      gcTime: 0,
    }),
  compare: (brand: string, before: string, after: string) =>
    queryOptions({
      queryKey: brandKey("compare", brand, before, after),
      queryFn: () => compare(brand, { before, after }),
      gcTime: 10_000,
    }),
  campaigns: (brand: string) =>
    queryOptions({ queryKey: brandKey("campaigns", brand), queryFn: () => fetchCampaigns(brand), staleTime: 60_000 }),
  /** The same, kept up with what becomes of each delivery. */
  campaignCounts: (brand: string) =>
    queryOptions({ queryKey: brandKey("campaign-counts", brand), queryFn: () => fetchCampaigns(brand) }),
  firstSteps: (brand: string) =>
    // Steps are done on other pages too.
    queryOptions({ queryKey: brandKey("first-steps", brand), queryFn: () => fetchFirstSteps(brand), staleTime: 0 }),
  /** Places on Earth by their codes, or by words. */
  places: (query: NonNullable<Query<"places">>) =>
    queryOptions({ queryKey: ownKey("places", query), queryFn: () => fetchPlaces(query) }),
  /** Proposals how it might be said. */
  wording: (brand: string, body: Schemas["WordingIn"]) =>
    queryOptions({
      queryKey: brandKey("wording", brand, body),
      queryFn: () => proposeWording(brand, body),
      retry: false,
      gcTime: 60_000,
    }),
};

/** After a zone was changed: what is planned in it keeps the time on the wall, or the moment. */
export const followZone = (brand: string, body: Schemas["FollowIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/zone-changes", { params: { path: { brand } }, body }));

/** One delivery, with what it says. */
const fetchDelivery = (brand: string, deliveryId: number) =>
  unwrap(
    api.GET("/api/brands/{brand}/deliveries/{delivery_id}", { params: { path: { brand, delivery_id: deliveryId } } }),
  );

/** The brand's campaigns and how far each is. */
const fetchCampaigns = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/campaigns", { params: { path: { brand } } }));

/** Undo what one did oneself. */
export const undo = (brand: string, eventId: number) =>
  unwrap(api.POST("/api/brands/{brand}/undo/{event_id}", { params: { path: { brand, event_id: eventId } } }));

/** Move deliveries: to other times or profiles, or to the tray. What can't be moved is left with its reason. */
export const moveDeliveries = (brand: string, body: Schemas["MovesIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/moves", { params: { path: { brand } }, body }));

/** A copy as a new draft, with or without the times. */
export const duplicatePost = (brand: string, postId: number, body: Schemas["DuplicateIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/duplicate", { params: { path: { brand, post_id: postId } }, body }),
  );

/** How far a new brand has come. */
const fetchFirstSteps = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/first-steps", { params: { path: { brand } } }));

/** One draft for each picture, with its caption as the text. */
export const createDrafts = (brand: string, body: Schemas["DraftFromIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/drafts", { params: { path: { brand } }, body }));

/** The posts in the bin, newest first. */
const fetchBin = (brand: string) => unwrap(api.GET("/api/brands/{brand}/bin", { params: { path: { brand } } }));

/** Take a post out of the bin. */
export const restorePost = (brand: string, postId: number) =>
  unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/restore", { params: { path: { brand, post_id: postId } } }));

/** A whole post; its revision is the ETag. */
export const fetchPost = (brand: string, postId: number) =>
  unwrap(api.GET("/api/brands/{brand}/posts/{post_id}", { params: { path: { brand, post_id: postId } } }));

/** Findings and proofs for a whole Bench in one call. Keeps nothing. */
const check = (brand: string, body: Schemas["CheckIn"], signal: AbortSignal) =>
  unwrap(api.POST("/api/brands/{brand}/check", { params: { path: { brand } }, body, signal }));

/** What a version has of its own once a finding is mended. Keeps nothing. */
export const applyFix = (brand: string, body: Schemas["FixIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/fix", { params: { path: { brand } }, body }));

/** Two texts by words: what is the same, gone, new. */
const compare = (brand: string, body: Schemas["CompareIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/compare", { params: { path: { brand } }, body }));

/** Say that one has the post open. Who else has. */
const attendPost = (brand: string, postId: number) =>
  unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/presence", { params: { path: { brand, post_id: postId } } }));

/** A new draft. */
export const createPost = (brand: string, body: Schemas["PostIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/posts", { params: { path: { brand } }, body }));

/** Keep a changed post (If-Match). */
export const updatePost = (brand: string, postId: number, revision: number, body: Schemas["PostIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/posts/{post_id}", {
      params: { path: { brand, post_id: postId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Plan every delivery that fits; the others are left with their reason (If-Match). */
export const planPost = (brand: string, postId: number, revision: number, body: Schemas["PlanIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/plan", {
      params: { path: { brand, post_id: postId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** When each profile of a post would go out. Nothing is planned; planned with the same seed, it is these times. */
const times = (brand: string, postId: number, body: Schemas["PreviewTimesIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/times", { params: { path: { brand, post_id: postId } }, body }));

/** Call deliveries off. What can't be is left with its reason. */
export const callOffDeliveries = (brand: string, body: Schemas["CallOffIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/call-offs", { params: { path: { brand } }, body }));

/** Put labels on posts, take them off, gather them in a campaign. */
export const markPosts = (brand: string, body: Schemas["MarkIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/marks", { params: { path: { brand } }, body }));

/** Change a campaign. */
export const updateCampaign = (brand: string, campaignId: number, body: Schemas["CampaignIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/campaigns/{campaign_id}", {
      params: { path: { brand, campaign_id: campaignId } },
      body,
    }),
  );

/** A new campaign. */
export const createCampaign = (brand: string, body: Schemas["CampaignIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/campaigns", { params: { path: { brand } }, body }));

/** Delete a campaign; its posts stay. */
export const deleteCampaign = (brand: string, campaignId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/campaigns/{campaign_id}", { params: { path: { brand, campaign_id: campaignId } } }),
  );

/** Countries and regions (ISO 3166) whose name or code begins with the words; or those of the codes. */
const fetchPlaces = (query: Query<"places">) => unwrap(api.GET("/api/places", { params: { query } }));

/** Put a draft in the bin. */
export const binPost = (brand: string, postId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/posts/{post_id}", { params: { path: { brand, post_id: postId } } }));

/** What happened to a post and its deliveries, newest first. */
const fetchPostHistory = (brand: string, postId: number) =>
  unwrap(api.GET("/api/brands/{brand}/posts/{post_id}/history", { params: { path: { brand, post_id: postId } } }));

/** Go back to how the post was after an entry of its history (If-Match). */
export const restoreVersion = (brand: string, postId: number, eventId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/restore/{event_id}", {
      params: { path: { brand, post_id: postId, event_id: eventId } },
      headers: ifMatch(revision),
    }),
  );

/** What the page at a link says of itself; its picture goes to the library. */
export const readCard = (brand: string, body: Schemas["CardIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/card", { params: { path: { brand } }, body }));

/** The text with those of the tags at its end that it hasn't yet. */
export const insertTags = (brand: string, body: Schemas["InsertIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/hashtags/insert", { params: { path: { brand } }, body }));

/** Up to three proposals, each with how it differs. Nothing changes until one is taken. */
const proposeWording = (brand: string, body: Schemas["WordingIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/wording", { params: { path: { brand } }, body }));

/** Say that one has the post open no more. As the page goes: whether it is heard doesn't matter. */
export const leavePost = (brand: string, postId: number) =>
  api.DELETE("/api/brands/{brand}/posts/{post_id}/presence", { params: { path: { brand, post_id: postId } } });
