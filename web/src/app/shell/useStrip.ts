import { useQuery } from "@tanstack/react-query";
import { api, got } from "@/api/client";
import { todayIn, wallOf } from "@/ui/times";
import { useHere } from "./BrandShell";

const BEAT = 60_000;

/** The next 24 hours, read anew each minute. */
export function useStrip() {
  const { brand } = useHere();
  return useQuery({
    queryKey: ["strip", brand.slug],
    queryFn: () => got(api.GET("/api/brands/{brand}/strip", { params: { path: { brand: brand.slug } } })),
    refetchInterval: BEAT,
  });
}

/** Today's date in the brand's zone by the server's clock; by this machine's while that isn't known. */
export function useToday(): string {
  const { brand } = useHere();
  const now = useStrip().data?.now;
  return now ? wallOf(now, brand.zone).slice(0, 10) : todayIn(brand.zone);
}
