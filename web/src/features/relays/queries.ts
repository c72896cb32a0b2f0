import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { useAction } from "@/ui/useAction";

export type Cell = Schemas["RelayCellOut"];
export type Settings = Schemas["RelaySettings"];
export type Row = Schemas["BoardRow"];
export type Board = Schemas["BoardOut"];
export type Firing = Schemas["FiringOut"];
export type Sample = Schemas["SampleOut"];
export type Source = Schemas["SourceIO"];

export const useBoard = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "board"],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/relays", { params: { path: { brand } } })),
  });

export const useQuestions = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "asked"],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/relays/questions", { params: { path: { brand } } })),
  });

export const useStartingPoints = (brand: string) =>
  useQuery({
    queryKey: ["relays", brand, "starts"],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/relays/starting-points", { params: { path: { brand } } })),
  });

export const useLog = (brand: string, relay: number | undefined, page: number) =>
  useQuery({
    queryKey: ["relays", brand, "log", relay ?? 0, page],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/relays/log", { params: { path: { brand }, query: { relay, page } } })),
    placeholderData: (before) => before,
  });

export const useRelayAction = (brand: string) => useAction(brand, ["relays", "calendar", "strip", "today"]);
