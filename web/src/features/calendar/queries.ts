import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type CalendarWindow, ifMatch, Problem, type Schemas, unwrap } from "@/api/client";
import { toast } from "@/ui/toasts";
import type { Filters } from "./filters";

/** A window of the calendar: which days, and what narrows it. */
export function useCalendar(brand: string, first: string | undefined, days: number, narrow: Filters) {
  return useQuery({
    queryKey: ["calendar", brand, first ?? "today", days, narrow],
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/calendar", {
          params: { path: { brand }, query: { ...NO_FILTER, first, days, ...narrow } },
        }),
      ),
    placeholderData: (before) => before,
  });
}

export const NO_FILTER = {
  sets: "",
  profiles: "",
  networks: "",
  states: "",
  labels: "",
  campaigns: "",
  people: "",
  words: "",
};

/** What each delivery of a window says, in full. */
export function usePlanned(brand: string, first: string | undefined, days: number, narrow: Filters) {
  return useQuery({
    queryKey: ["calendar", brand, "planned", first ?? "today", days, narrow],
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/plan", {
          params: { path: { brand }, query: { ...NO_FILTER, first, days, ...narrow } },
        }),
      ),
  });
}

/** Gaps, crowding and repetition, each with a proposed time. */
export function useAdvice(brand: string, first: string | undefined, days: number, wanted: boolean) {
  return useQuery({
    queryKey: ["calendar", brand, "advice", first ?? "today", days],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/calendar/advice", { params: { path: { brand }, query: { first, days } } })),
    enabled: wanted,
  });
}

const LISTS = {
  labels: (brand: string) => unwrap(api.GET("/api/brands/{brand}/labels", { params: { path: { brand } } })),
  campaigns: (brand: string) => unwrap(api.GET("/api/brands/{brand}/campaigns", { params: { path: { brand } } })),
  views: (brand: string) => unwrap(api.GET("/api/brands/{brand}/views", { params: { path: { brand } } })),
  subscriptions: (brand: string) =>
    unwrap(api.GET("/api/brands/{brand}/subscriptions", { params: { path: { brand } } })),
  almanac: (brand: string) => unwrap(api.GET("/api/brands/{brand}/almanac", { params: { path: { brand } } })),
};

export const useLabels = (brand: string) =>
  useQuery({ queryKey: ["labels", brand], queryFn: () => LISTS.labels(brand), staleTime: 60_000 });
export const useCampaigns = (brand: string) =>
  useQuery({ queryKey: ["campaigns", brand], queryFn: () => LISTS.campaigns(brand), staleTime: 60_000 });
export const useViews = (brand: string) =>
  useQuery({ queryKey: ["views", brand], queryFn: () => LISTS.views(brand), staleTime: 60_000 });
export const useSubscriptions = (brand: string) =>
  useQuery({ queryKey: ["subscriptions", brand], queryFn: () => LISTS.subscriptions(brand) });
export const useAlmanac = (brand: string) =>
  useQuery({ queryKey: ["almanac", brand], queryFn: () => LISTS.almanac(brand) });

/** What to call after one of the lists has been changed. */
export function useChangedList(brand: string, ...names: string[]) {
  const queries = useQueryClient();
  return () =>
    Promise.all([...names, "calendar"].map((name) => queries.invalidateQueries({ queryKey: [name, brand] })));
}

export function useDropped(brand: string) {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      ["calendar", "strip", "post", "today", "campaigns", "trouble", "listings", "signing"].map((key) =>
        queries.invalidateQueries({ queryKey: [key, brand] }),
      ),
    );
}

/** Undo an entry of one's own, and say what came of it. */
export function useUndo(brand: string) {
  const dropped = useDropped(brand);
  return async (entry: number) => {
    try {
      const done = await unwrap(
        api.POST("/api/brands/{brand}/undo/{event_id}", { params: { path: { brand, event_id: entry } } }),
      );
      toast(done.summary);
    } catch (error) {
      toast((error as Error).message, { wrong: true });
    }
    await dropped();
  };
}

type Target = { id: number; revision: number };
type Move = Target & { wall: string; words: string };
type Deed = "unplan" | "call-off" | "retry" | "comment";
const DEEDS = {
  unplan: "/api/brands/{brand}/deliveries/{delivery_id}/unschedule",
  "call-off": "/api/brands/{brand}/deliveries/{delivery_id}/call-off",
  retry: "/api/brands/{brand}/deliveries/{delivery_id}/retry",
  comment: "/api/brands/{brand}/deliveries/{delivery_id}/comment",
} as const;
const DONE: Record<Deed, string> = {
  unplan: "Taken off the calendar.",
  "call-off": "Called off.",
  retry: "It is being sent again.",
  comment: "The comment is being sent again.",
};

/** What can be done to a delivery. Each says what happened, offers Undo where there is one, and tells what stood in the way. */
export function useDeliveryActions(brand: string) {
  const dropped = useDropped(brand);
  const undo = useUndo(brand);
  const path = (target: Target) => ({
    params: { path: { brand, delivery_id: target.id } },
    headers: ifMatch(target.revision),
  });
  const move = useMutation({
    mutationFn: ({ wall, words, ...target }: Move) =>
      unwrap(
        api.POST("/api/brands/{brand}/deliveries/{delivery_id}/move", { ...path(target), body: { wall_time: wall } }),
      ).then((done) => ({
        done,
        words,
      })),
    onSuccess: ({ done, words }) => toast(words, { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const act = useMutation({
    mutationFn: ({ deed, ...target }: Target & { deed: Deed }) =>
      unwrap(api.POST(DEEDS[deed], path(target))).then((done) => ({ done, deed })),
    onSuccess: ({ done, deed }) => toast(DONE[deed], { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const settle = useMutation({
    mutationFn: ({ isThere, url, ...target }: Target & { isThere: boolean; url: string }) =>
      unwrap(
        api.POST("/api/brands/{brand}/deliveries/{delivery_id}/settle", {
          ...path(target),
          body: { is_there: isThere, url },
        }),
      ),
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
  return { move, deed: act, settle };
}

export function told(error: Error): string {
  if (error instanceof Problem && error.status === 412)
    return "Someone changed it meanwhile. This is how it stands now; do it again if it still fits.";
  return error.message;
}

type Places = Map<number, { day: number; time?: string; profile?: number }>;
type Moves = { moves: Schemas["OneMoveIn"][]; whole: boolean; words: string; places?: Places };

/** Move many, or one, in one step with one Undo; what stayed is told. */
export function useMoves(brand: string) {
  const dropped = useDropped(brand);
  const undo = useUndo(brand);
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ moves, whole, words }: Moves) =>
      unwrap(api.POST("/api/brands/{brand}/moves", { params: { path: { brand } }, body: { moves, whole } })).then(
        (done) => ({
          done,
          words,
        }),
      ),
    // The cards are where they were put at once; what the server says of them follows.
    onMutate: ({ places }) => {
      if (!places) return;
      queries.setQueriesData<CalendarWindow>({ queryKey: ["calendar", brand] }, (window) =>
        window?.tickets ? { ...window, tickets: window.tickets.map((t) => ({ ...t, ...places.get(t.id) })) } : window,
      );
    },
    onSuccess: ({ done, words }) => {
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      const entry = done.undo;
      const many = done.moved.length > 1 ? ` ${done.moved.length} deliveries.` : "";
      toast(`${words}${many}`, { undo: entry ? () => undo(entry) : undefined });
    },
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
}
