import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { type CalendarWindow, Problem, type Schemas } from "@/api/client";
import { calendarQueries, type Gather } from "@/data/calendar";
import { useChanged } from "@/data/changes";
import {
  callOffDelivery,
  moveDelivery,
  resolveUncertain,
  retryComment,
  retryDelivery,
  unscheduleDelivery,
} from "@/data/delivery";
import { brandKey } from "@/data/keys";
import { labelQueries } from "@/data/labels";
import { moveDeliveries, postQueries, undo } from "@/data/posts";
import { toast } from "@/ui/toasts";
import type { Filters } from "./filters";

/** A window of the calendar: which days, and what narrows it. */
export function useCalendar(
  brand: string,
  first: string | undefined,
  days: number,
  narrow: Filters,
  gather: Gather = "profile",
) {
  return useQuery(calendarQueries.window(brand, first, days, narrow, gather));
}

/** Drafts without a date. */
export const useTray = (brand: string, narrow: Filters) => useQuery(calendarQueries.tray(brand, narrow));

/** A window with every card of it, however many: null until they are there. */
export function useWholeCalendar(brand: string, first: string | undefined, days: number, narrow: Filters) {
  const found = useCalendar(brand, first, days, narrow, "network");
  const origin = found.data?.days[0]?.date ?? "";
  const piece = { origin, first: origin, days, narrow, marks: false };
  const more = useQuery({ ...calendarQueries.cards(brand, piece), enabled: Boolean(found.data?.gathered) });
  const tickets = found.data?.gathered ? more.data?.tickets : found.data?.tickets;
  const again = () => (found.error ? found.refetch() : more.refetch());
  return { window: found.data, tickets: tickets ?? null, error: found.error ?? more.error, again };
}

/** What each delivery of a window says, in full, page after page until all are there. */
export function usePlanned(brand: string, first: string | undefined, days: number, narrow: Filters) {
  const found = useInfiniteQuery(calendarQueries.plannedTexts(brand, first, days, narrow));
  const { hasNextPage, isFetching, isError, fetchNextPage } = found;
  useEffect(() => {
    if (hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [hasNextPage, isFetching, isError, fetchNextPage]);
  return found;
}

/** Gaps, crowding and repetition, each with a proposed time. */
export function useAdvice(brand: string, first: string | undefined, days: number, narrow: Filters) {
  return useInfiniteQuery(calendarQueries.spacing(brand, first, days, narrow));
}

export const useLabels = (brand: string) => useQuery(labelQueries.list(brand));
export const useCampaigns = (brand: string, enabled = true) => useQuery({ ...postQueries.campaigns(brand), enabled });
export const useViews = (brand: string) => useQuery(calendarQueries.views(brand));
export const useSubscriptions = (brand: string) => useQuery(calendarQueries.subscriptions(brand));
export const useAlmanac = (brand: string) => useQuery(calendarQueries.almanac(brand));

/** Undo an entry of one's own, and say what came of it. */
export function useUndo(brand: string) {
  const changed = useChanged(brand);
  const dropped = () => changed("delivery");
  return async (entry: number) => {
    try {
      const done = await undo(brand, entry);
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
  unplan: unscheduleDelivery,
  "call-off": callOffDelivery,
  retry: retryDelivery,
  comment: retryComment,
} as const;
const DONE: Record<Deed, string> = {
  unplan: "Taken off the calendar.",
  "call-off": "Called off.",
  retry: "It is being sent again.",
  comment: "The comment is being sent again.",
};

/** What can be done to a delivery. Each says what happened, offers Undo where there is one, and tells what stood in the way. */
export function useDeliveryActions(brand: string) {
  const changed = useChanged(brand);
  const dropped = () => changed("delivery");
  const undo = useUndo(brand);
  const move = useMutation({
    mutationFn: ({ wall, words, id, revision }: Move) =>
      moveDelivery(brand, id, revision, { wall_time: wall }).then((done) => ({ done, words })),
    onSuccess: ({ done, words }) => toast(words, { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const act = useMutation({
    mutationFn: ({ deed, id, revision }: Target & { deed: Deed }) =>
      DEEDS[deed](brand, id, revision).then((done) => ({ done, deed })),
    onSuccess: ({ done, deed }) => toast(DONE[deed], { undo: done.undo ? () => undo(done.undo as number) : undefined }),
    onError: (error) => toast(told(error), { wrong: true }),
    onSettled: dropped,
  });
  const settle = useMutation({
    mutationFn: ({ isThere, url, id, revision }: Target & { isThere: boolean; url: string }) =>
      resolveUncertain(brand, id, revision, { is_there: isThere, url }),
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
  const changed = useChanged(brand);
  const dropped = () => changed("delivery");
  const undo = useUndo(brand);
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ moves, whole, words }: Moves) =>
      moveDeliveries(brand, { moves, whole }).then((done) => ({
        done,
        words,
      })),
    // The cards are where they were put at once; what the server says of them follows.
    onMutate: ({ places }) => {
      if (!places) return;
      queries.setQueriesData<CalendarWindow>({ queryKey: brandKey("calendar", brand) }, (window) =>
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
