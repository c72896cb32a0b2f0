import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type CalendarWindow, got, ifMatch, Problem } from "@/api/client";
import { say } from "@/ui/notices";

export function useCalendar(brand: string, from: string | undefined, sets: string | undefined) {
  return useQuery({
    queryKey: ["calendar", brand, from ?? "today", sets ?? "all"],
    queryFn: () =>
      got(
        api.GET("/api/brands/{brand}/calendar", {
          params: { path: { brand }, query: { first: from, days: 14, sets } },
        }),
      ),
    placeholderData: (before) => before,
  });
}

function useDropped(brand: string) {
  const queries = useQueryClient();
  return () =>
    Promise.all(["calendar", "strip", "post"].map((key) => queries.invalidateQueries({ queryKey: [key, brand] })));
}

/** Undo an entry of one's own, and say what came of it. */
export function useUndo(brand: string) {
  const dropped = useDropped(brand);
  return async (entry: number) => {
    try {
      const done = await got(api.POST("/api/brands/{brand}/undo/{entry}", { params: { path: { brand, entry } } }));
      say(done.words);
    } catch (error) {
      say((error as Error).message, { wrong: true });
    }
    await dropped();
  };
}

type Target = { id: number; revision: number };
type Move = Target & { wall: string; words: string; shown?: { from: string | undefined; day: number; time: string } };
type Deed = "unplan" | "call-off" | "retry";
const DEEDS = {
  unplan: "/api/brands/{brand}/deliveries/{id}/unplan",
  "call-off": "/api/brands/{brand}/deliveries/{id}/call-off",
  retry: "/api/brands/{brand}/deliveries/{id}/retry",
} as const;
const DONE: Record<Deed, string> = {
  unplan: "Taken off the calendar.",
  "call-off": "Called off.",
  retry: "It is being sent again.",
};

/** What can be done to a delivery. Each says what happened, offers Undo where there is one, and tells what stood in the way. */
export function useDeliveryDeeds(brand: string) {
  const dropped = useDropped(brand);
  const undo = useUndo(brand);
  const path = (target: Target) => ({ params: { path: { brand, id: target.id } }, headers: ifMatch(target.revision) });

  const queries = useQueryClient();
  const move = useMutation({
    mutationFn: ({ wall, words, shown: _, ...target }: Move) =>
      got(api.POST("/api/brands/{brand}/deliveries/{id}/move", { ...path(target), body: { wall } })).then((done) => ({
        done,
        words,
      })),
    // The card is where it was put at once; what the server says of it follows.
    onMutate: ({ id, shown }) => {
      if (!shown) return;
      queries.setQueriesData<CalendarWindow>({ queryKey: ["calendar", brand] }, (window) =>
        window && window.days[0]?.date === shown.from
          ? {
              ...window,
              tickets: window.tickets.map((t) => (t.id === id ? { ...t, day: shown.day, time: shown.time } : t)),
            }
          : window,
      );
    },
    onSuccess: ({ done, words }) => say(words, { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => say(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const deed = useMutation({
    mutationFn: ({ deed, ...target }: Target & { deed: Deed }) =>
      got(api.POST(DEEDS[deed], path(target))).then((done) => ({ done, deed })),
    onSuccess: ({ done, deed }) => say(DONE[deed], { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => say(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const settle = useMutation({
    mutationFn: ({ isThere, url, ...target }: Target & { isThere: boolean; url: string }) =>
      got(
        api.POST("/api/brands/{brand}/deliveries/{id}/settle", { ...path(target), body: { is_there: isThere, url } }),
      ),
    onError: (error) => say(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const agree = useMutation({
    mutationFn: ({ post, revision }: { post: number; revision: number }) =>
      got(
        api.POST("/api/brands/{brand}/posts/{id}/agree", {
          params: { path: { brand, id: post } },
          headers: ifMatch(revision),
        }),
      ),
    onSuccess: () => say("Signed off. What was held for it is planned."),
    onError: (error) => say(told(error), { wrong: true }),
    onSettled: dropped,
  });
  return { move, deed, settle, agree };
}

function told(error: Error): string {
  if (error instanceof Problem && error.status === 412)
    return "Someone changed it meanwhile. This is how it stands now; do it again if it still fits.";
  return error.message;
}
