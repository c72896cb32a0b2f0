import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Form, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { multipart } from "@/api/multipart";
import { brandKey } from "./keys";

export const feedQueries = {
  list: (brand: string) => queryOptions({ queryKey: brandKey("feeds", brand), queryFn: () => fetchFeeds(brand) }),
  shelf: (brand: string, query: Omit<NonNullable<Query<"shelf">>, "page">, page: number) =>
    queryOptions({
      queryKey: brandKey("shelf", brand, query, page),
      queryFn: () => fetchShelf(brand, { ...query, page }),
      placeholderData: keepPreviousData,
    }),
};

/** A feed's title, how often it is read, and whether its articles stand on the shelf. */
export const updateFeed = (brand: string, feedId: number, revision: number, body: Schemas["FeedIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/feeds/{feed_id}", {
      params: { path: { brand, feed_id: feedId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Follow a feed no more; its relays go with it, what was posted of it stays. */
export const unfollowFeed = (brand: string, feedId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/feeds/{feed_id}", { params: { path: { brand, feed_id: feedId } } }));

/** Follow every feed that an OPML file names; each is read soon. */
export const importOpml = (brand: string, form: Form<"importOpml">) =>
  unwrap(api.POST("/api/brands/{brand}/feeds/opml", { params: { path: { brand } }, ...multipart(form) }));

/** Have it read at once, by a worker. */
export const pollFeed = (brand: string, feedId: number) =>
  unwrap(api.POST("/api/brands/{brand}/feeds/{feed_id}/read", { params: { path: { brand, feed_id: feedId } } }));

/** The feeds at an address: itself, or those that its page names. Nothing is kept. */
export const findFeeds = (brand: string, body: Schemas["LookForIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/feeds/find", { params: { path: { brand } }, body }));

/** Follow the feed at an address, or the one that its page names. What stands in it now counts as old. */
export const followFeed = (brand: string, body: Schemas["FollowFeedIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/feeds", { params: { path: { brand } }, body }));

/** The feeds that the brand follows, by title. */
const fetchFeeds = (brand: string) => unwrap(api.GET("/api/brands/{brand}/feeds", { params: { path: { brand } } }));

/** The reading shelf, the newest first; dead links left out, broken pictures not shown. */
const fetchShelf = (brand: string, query: Query<"shelf">) =>
  unwrap(api.GET("/api/brands/{brand}/shelf", { params: { path: { brand }, query } }));

/** When one wants to be told of a few fresh articles. One's own. */
export const saveReminder = (brand: string, body: Schemas["ReminderIO"]) =>
  unwrap(api.PUT("/api/brands/{brand}/shelf/reminder", { params: { path: { brand } }, body }));

/** A post for each article, with a remark over it; as drafts, or planned at the next free slots. */
export const shareArticles = (brand: string, body: Schemas["ShareIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/shelf/share", { params: { path: { brand } }, body }));

/** Take an article off the shelf; it doesn't come back. */
export const putAway = (brand: string, articleId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/articles/{article_id}", { params: { path: { brand, article_id: articleId } } }),
  );
