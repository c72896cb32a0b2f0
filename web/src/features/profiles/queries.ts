import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { api, type Network, unwrap } from "@/api/client";

const NONE: Map<string, Network> = new Map();
const byName = (found: Network[]) => new Map(found.map((network) => [network.network, network]));

/** Every network the brand can plan for, by its name in the API. */
export function useNetworks(): Map<string, Network> {
  const { brand } = useParams({ from: "/$brand" });
  const found = useQuery({
    queryKey: ["networks", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/networks", { params: { path: { brand } } })),
    staleTime: 600_000,
    select: byName,
  });
  return found.data ?? NONE;
}

export function useProfiles(brand: string) {
  return useQuery({
    queryKey: ["profiles", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/profiles", { params: { path: { brand } } })),
  });
}

export function useSets(brand: string) {
  return useQuery({
    queryKey: ["sets", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sets", { params: { path: { brand } } })),
    staleTime: 60_000,
  });
}

/** What stands in the way of the brand's posts just now. */
export function useObstacles(brand: string) {
  return useQuery({
    queryKey: ["standing", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/obstacles", { params: { path: { brand } } })),
    refetchInterval: 60_000,
  });
}

/** Read anew what a change of profiles makes old. */
export function useProfilesChanged(brand: string) {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      ["profiles", "calendar", "strip", "standing", "sets", "networks", "links", "today"].map((key) =>
        queries.invalidateQueries({ queryKey: [key, brand] }),
      ),
    );
}
