import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, Problem, type Schemas } from "@/api/client";
import { say } from "@/ui/notices";

export type Cell = Schemas["RelayCellOut"];
export type Settings = Schemas["RelaySettings"];
export type Row = Schemas["BoardRow"];
export type Board = Schemas["BoardOut"];
export type Leg = Schemas["LegOut"];
export type Sample = Schemas["SampleOut"];
export type Source = Schemas["SourceIO"];

export const useBoard = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "board"],
    queryFn: () => got(api.GET("/api/brands/{brand}/relays", { params: { path: { brand } } })),
  });

export const useAsked = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "asked"],
    queryFn: () => got(api.GET("/api/brands/{brand}/relays/asked", { params: { path: { brand } } })),
  });

export const useStarts = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "starts"],
    queryFn: () => got(api.GET("/api/brands/{brand}/relays/starts", { params: { path: { brand } } })),
  });

export const useLog = (brand: string, relay: number | undefined, page: number) =>
  useQuery({
    queryKey: ["relays", brand, "log", relay ?? 0, page],
    queryFn: () =>
      got(api.GET("/api/brands/{brand}/relays/log", { params: { path: { brand }, query: { relay, page } } })),
    placeholderData: (before) => before,
  });

/** Do something, tell what stood in the way, offer to undo it, and read again what it made old. What came of it, or undefined. */
export function useDeed(brand: string, keys: string[]) {
  const queries = useQueryClient();
  return async <Came>(
    act: () => Promise<Came>,
    words?: string,
    undo?: () => Promise<void>,
  ): Promise<{ came: Came } | undefined> => {
    try {
      const came = await act();
      if (words) say(words, { undo });
      return { came };
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say(error.faults[0]?.detail ?? error.message, { wrong: true });
      return undefined;
    } finally {
      await Promise.all(keys.map((key) => queries.invalidateQueries({ queryKey: [key, brand] })));
    }
  };
}

export const useRelayDeed = (brand: string) => useDeed(brand, ["relays", "calendar", "strip", "today"]);
