import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

export const deliveryQueries = {
  /** What stands in the way of the brand's posts just now. */
  obstacles: (brand: string) =>
    queryOptions({
      queryKey: brandKey("obstacles", brand),
      queryFn: () => fetchObstacles(brand),
      refetchInterval: 60_000,
    }),
  troubles: (brand: string, profile: number | undefined, days: number) =>
    queryOptions({
      queryKey: brandKey("trouble", brand, profile ?? 0, days),
      queryFn: () => fetchTroubles(brand, { days, profile }),
      placeholderData: keepPreviousData,
    }),
  /** How the listings of businesses look. */
  listings: (brand: string) =>
    queryOptions({ queryKey: brandKey("listings", brand), queryFn: () => fetchListings(brand) }),
  linkPage: (token: string) =>
    queryOptions({ queryKey: ownKey("link-page", token), queryFn: () => fetchLinkPage(token), retry: false }),
};

/** Resume. What was missed waits for a choice. */
export const endPause = (brand: string, pauseId: number) =>
  unwrap(api.POST("/api/brands/{brand}/pauses/{pause_id}/end", { params: { path: { brand, pause_id: pauseId } } }));

/** Say what happens to what was missed while paused or disconnected. */
export const catchUp = (brand: string, body: Schemas["CatchUpIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/catch-up", { params: { path: { brand } }, body }));

/** Bring the text of a published post up to date at the network (If-Match). */
export const updateText = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/update-text", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** Take a published post down at the network (If-Match). */
export const takeDown = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/take-down", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** What a client's link asks for, and what stands connected by it. */
const fetchLinkPage = (token: string) => unwrap(api.GET("/api/links/{token}", { params: { path: { token } } }));

/** Begin connecting by a link; send the client to the address given. */
export const connectByLink = (token: string, body: Schemas["ConnectIn"]) =>
  unwrap(api.POST("/api/links/{token}/connections", { params: { path: { token } }, body }));

/** The client withdraws a profile that was connected by their link; what was planned for it becomes drafts. */
export const withdrawProfileByLink = (token: string, profileId: number) =>
  unwrap(
    api.DELETE("/api/links/{token}/profiles/{profile_id}", { params: { path: { token, profile_id: profileId } } }),
  );

/** It is published by hand (If-Match). */
export const reportPublished = (brand: string, deliveryId: number, revision: number, body: Schemas["DoneIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/published", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** It won't be published by hand, and why (If-Match). */
export const reportNotPublished = (brand: string, deliveryId: number, revision: number, body: Schemas["NotDoneIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/not-published", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** It will be published by hand at another time (If-Match). */
export const postponeByHand = (brand: string, deliveryId: number, revision: number, body: Schemas["LaterIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/postpone", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Disconnect a profile. How many planned deliveries were made drafts or called off. */
export const disconnectProfile = (brand: string, profileId: number, body: Schemas["DisconnectIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/profiles/{profile_id}/disconnect", {
      params: { path: { brand, profile_id: profileId } },
      body,
    }),
  );

/** Pause every brand one may publish in. How many; those paused already stay as they are. */
export const pauseAll = (body: Schemas["PauseAllIn"]) => unwrap(api.POST("/api/pauses", { body }));

/** Pause a profile or the brand, from now on. */
export const pause = (brand: string, body: Schemas["PauseIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/pauses", { params: { path: { brand } }, body }));

/** Resume every brand one may publish in. How many. */
export const endAllPauses = () => unwrap(api.POST("/api/pauses/end"));

/** What stands in the way of the brand's posts just now. */
const fetchObstacles = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/obstacles", { params: { path: { brand } } }));

/** Ask the network whether the profile's conditions are met now. Its state. */
export const checkProfile = (brand: string, profileId: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/profiles/{profile_id}/check", { params: { path: { brand, profile_id: profileId } } }),
  );

/** How fresh each location's listing is: the emptiest first. */
const fetchListings = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/listings", { params: { path: { brand } } }));

/** Send many again. */
export const retryDeliveries = (brand: string, body: Schemas["RetriesIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/troubles/retry", { params: { path: { brand } }, body }));

/** Try the first comment again that failed alone (If-Match). */
export const retryComment = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/comment", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** Everything that needs a person, by cause; and counts of sent and failed by profile. */
const fetchTroubles = (brand: string, query: Query<"troubles">) =>
  unwrap(api.GET("/api/brands/{brand}/troubles", { params: { path: { brand }, query } }));

/** Take it off the calendar; the draft stays. */
export const unscheduleDelivery = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/unschedule", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** Not to go out, and to stay as it is. */
export const callOffDelivery = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/call-off", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** Try again what failed. */
export const retryDelivery = (brand: string, deliveryId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/retry", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
    }),
  );

/** To another time, as the wall shows it. */
export const moveDelivery = (brand: string, deliveryId: number, revision: number, body: Schemas["MoveIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/move", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Say of what is uncertain whether it is there. */
export const resolveUncertain = (brand: string, deliveryId: number, revision: number, body: Schemas["SettleIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/deliveries/{delivery_id}/settle", {
      params: { path: { brand, delivery_id: deliveryId } },
      headers: ifMatch(revision),
      body,
    }),
  );
