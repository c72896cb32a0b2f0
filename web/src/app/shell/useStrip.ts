import { useQuery } from "@tanstack/react-query";
import { useBrandContext } from "@/app/brandContext";
import { calendarQueries } from "@/data/calendar";
import { todayIn, wallTimeIn } from "@/ui/times";

const BEAT = 60_000;

/** The next 24 hours, read anew each minute. */
export function useStrip() {
  const { brand } = useBrandContext();
  return useQuery(calendarQueries.strip(brand.slug, BEAT));
}

/** Today's date in the brand's zone by the server's clock; by this machine's while that isn't known. */
export function useToday(): string {
  const { brand } = useBrandContext();
  const now = useStrip().data?.now;
  return now ? wallTimeIn(now, brand.zone).slice(0, 10) : todayIn(brand.zone);
}
