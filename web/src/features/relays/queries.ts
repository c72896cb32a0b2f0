import { useQuery } from "@tanstack/react-query";
import { api, got, type Schemas } from "@/api/client";
import { useDeed } from "@/ui/useDeed";

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

export const useRelayDeed = (brand: string) => useDeed(brand, ["relays", "calendar", "strip", "today"]);
