import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const insightQueries = {
  postingTimes: (brand: string, profile: number) =>
    queryOptions({
      queryKey: brandKey("profiles", brand, "posting-times", profile),
      queryFn: () => fetchPostingTimes(brand, profile),
    }),
  hashtags: (brand: string, body: Schemas["TagsIn"]) =>
    queryOptions({
      queryKey: brandKey("hashtags", brand, body.text),
      queryFn: () => hashtags(brand, body),
      gcTime: 10_000,
    }),
};

/** Times that did better, by reactions, and how sure that is. */
const fetchPostingTimes = (brand: string, profileId: number) =>
  unwrap(
    api.GET("/api/brands/{brand}/profiles/{profile_id}/posting-times", {
      params: { path: { brand, profile_id: profileId } },
    }),
  );

/** Hashtags that suit a text, the best first, each with why. */
const hashtags = (brand: string, body: Schemas["TagsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/hashtags", { params: { path: { brand } }, body }));
