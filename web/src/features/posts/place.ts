import { createContext, useContext } from "react";
import type { Asset, Network } from "@/api/client";
import type { BenchColumn, Draft } from "./draft";

export type Change = (how: (draft: Draft) => Draft) => void;

/** What every cell of a Bench has at hand. It changes seldom, so that typing redraws only what it touches. */
export type Place = {
  networks: Map<string, Network>;
  assets: Map<number, Asset>;
  columns: BenchColumn[];
  change: Change;
  added: (asset: Asset) => void;
  /** The draft as it stands at this moment, for what is done at a press. */
  now: () => Draft;
};

export const PlaceContext = createContext<Place | null>(null);

export function usePlace(): Place {
  const place = useContext(PlaceContext);
  if (!place) throw new Error("outside a Bench");
  return place;
}

/** What a column is called: its network, or the profile that was split off. */
export function columnName(column: BenchColumn, networks: Map<string, Network>): string {
  const name = networks.get(column.network)?.name ?? column.network;
  return column.profile ? `${name}, ${column.profiles[0]?.handle ?? "its own"}` : name;
}
