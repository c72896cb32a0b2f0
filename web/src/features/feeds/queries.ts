import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { useAction } from "@/ui/useAction";

export type Feed = Schemas["FeedOut"];
export type Article = Schemas["ArticleOut"];

export const useFeeds = (brand: string) =>
  useQuery({
    queryKey: ["feeds", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/feeds", { params: { path: { brand } } })),
  });

export const useShelf = (brand: string, query: { words?: string; feed?: number; tag?: string }, page: number) =>
  useQuery({
    queryKey: ["shelf", brand, query, page],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/shelf", { params: { path: { brand }, query: { ...query, page } } })),
    placeholderData: (before) => before,
  });

export const useFeedAction = (brand: string) => useAction(brand, ["feeds", "shelf", "relays", "calendar"]);
