import { useQuery } from "@tanstack/react-query";
import { api, got } from "@/api/client";

/** What waits on me, in every brand of mine: read again when something is told, and each minute. */
export function useWaiting() {
  return useQuery({ queryKey: ["waiting"], queryFn: () => got(api.GET("/api/waiting")), refetchInterval: 60_000 });
}
