import { useQuery } from "@tanstack/react-query";
import { api, got, type Schemas } from "@/api/client";
import { useDeed } from "@/ui/useDeed";

export type Feed = Schemas["FeedOut"];
export type Article = Schemas["ArticleOut"];

export const useFeeds = (brand: string) =>
  useQuery({
    queryKey: ["feeds", brand],
    queryFn: () => got(api.GET("/api/brands/{brand}/feeds", { params: { path: { brand } } })),
  });

export const useShelf = (brand: string, query: { words?: string; feed?: number; tag?: string }, page: number) =>
  useQuery({
    queryKey: ["shelf", brand, query, page],
    queryFn: () =>
      got(api.GET("/api/brands/{brand}/shelf", { params: { path: { brand }, query: { ...query, page } } })),
    placeholderData: (before) => before,
  });

export const useFeedDeed = (brand: string) => useDeed(brand, ["feeds", "shelf", "relays", "calendar"]);
