import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import type { Network } from "@/api/client";
import { deliveryQueries } from "@/data/delivery";
import { profileQueries } from "@/data/profiles";

const NONE: Map<string, Network> = new Map();

/** Every network the brand can plan for, by its name in the API. */
export function useNetworks(): Map<string, Network> {
  const { brand } = useParams({ from: "/$brand" });
  const found = useQuery(profileQueries.networks(brand));
  return found.data ?? NONE;
}

export function useProfiles(brand: string, enabled = true) {
  return useQuery({ ...profileQueries.list(brand), enabled });
}

/** With what is planned and in trouble, as it stands. */
export function useProfileCounts(brand: string) {
  return useQuery(profileQueries.counts(brand));
}

/** When one profile posts: its slots, and what it wishes of its spacing. */
export function useTimetable(brand: string, profile: number) {
  return useQuery(profileQueries.timetable(brand, profile));
}

export function useSets(brand: string) {
  return useQuery(profileQueries.sets(brand));
}

/** What stands in the way of the brand's posts just now. */
export function useObstacles(brand: string) {
  return useQuery(deliveryQueries.obstacles(brand));
}
