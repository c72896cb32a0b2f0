import { useQuery } from "@tanstack/react-query";
import { api, got, type Network } from "@/api/client";

export function useNetworks(): Map<string, Network> {
  const found = useQuery({
    queryKey: ["networks"],
    queryFn: () => got(api.GET("/api/networks")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return new Map((found.data ?? []).map((network) => [network.network, network]));
}

export function useProfiles(brand: string) {
  return useQuery({
    queryKey: ["profiles", brand],
    queryFn: () => got(api.GET("/api/brands/{brand}/profiles", { params: { path: { brand } } })),
  });
}
