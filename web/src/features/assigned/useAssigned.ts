import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";

/** What waits on me, in every brand of mine: read again when something is told, and each minute. */
export function useAssigned() {
  return useQuery({ queryKey: ["waiting"], queryFn: () => unwrap(api.GET("/api/assigned")), refetchInterval: 60_000 });
}
