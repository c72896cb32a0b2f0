import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { feedQueries } from "@/data/feeds";
import { useAction } from "@/ui/useAction";

export type Feed = Schemas["FeedOut"];
export type Article = Schemas["ArticleOut"];

export const useFeeds = (brand: string) => useQuery(feedQueries.list(brand));

export const useShelf = (brand: string, query: { words?: string; feed?: number; tag?: string }, page: number) =>
  useQuery(feedQueries.shelf(brand, query, page));

export const useFeedAction = (brand: string) => useAction(brand, ["feed", "post"]);
