import { useQuery } from "@tanstack/react-query";
import { calendarQueries } from "@/data/calendar";

/** What waits on me, in every brand of mine: read again when something is told, and each minute. */
export function useAssigned() {
  return useQuery(calendarQueries.assigned());
}
