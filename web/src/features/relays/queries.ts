import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { relayQueries } from "@/data/relays";
import { useAction } from "@/ui/useAction";

export type Cell = Schemas["RelayCellOut"];
export type Settings = Schemas["RelaySettings"];
export type Row = Schemas["BoardRow"] & Schemas["BoardStart"];
export type Board = Omit<Schemas["BoardOut"], "rows"> & { rows: Row[] };
export type Firing = Schemas["FiringOut"];
export type Sample = Schemas["SampleOut"];
export type Source = Schemas["SourceIO"];

export const useBoard = (brand: string) => useQuery(relayQueries.board(brand));

export const useQuestions = (brand: string) => useQuery(relayQueries.questions(brand));

export const useStartingPoints = (brand: string) => useQuery(relayQueries.startingPoints(brand));

export const useLog = (brand: string, relay: number | undefined, page: number) =>
  useQuery(relayQueries.log(brand, relay, page));

export const useRelayAction = (brand: string) => useAction(brand, ["relay", "delivery"]);
