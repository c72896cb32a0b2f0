import { useState } from "react";
import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { planPost } from "@/data/posts";
import { formatClock, formatDay } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { told, useMoves, useUndo } from "../queries";
import type { Draft, Spot } from "./board";
import { countSiblings, movedWith, moveTo, moveToTray } from "./moves";

export type Ask = { count: number; words: string; go: (whole: boolean) => void };
const REMEMBERED = "menudo.whole";

/** What comes of setting cards down: one or many, with or without their siblings, to the tray, or a draft onto a day. */
export function useDrop(window: CalendarWindow, selected: ReadonlySet<number>, clear: () => void) {
  const { brand, me } = useBrandContext();
  const moves = useMoves(brand.slug);
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const [ask, setAsk] = useState<Ask | null>(null);

  /** Siblings that could go along are asked about, unless the answer was remembered for this session. */
  function withSiblings(tickets: Ticket[], words: string, go: (whole: boolean) => void) {
    const count = countSiblings(tickets);
    const before = sessionStorage.getItem(REMEMBERED);
    if (!count) go(false);
    else if (before) go(before === "whole");
    else setAsk({ count, words, go });
  }
  function answer(whole: boolean | null, remember: boolean) {
    const asked = ask;
    setAsk(null);
    if (whole === null || !asked) return;
    if (remember) sessionStorage.setItem(REMEMBERED, whole ? "whole" : "one");
    asked.go(whole);
  }

  function setDown(ticket: Ticket, spot: Spot, snap: boolean) {
    const tickets = movedWith(ticket, window, selected);
    const moved = moveTo(ticket, tickets, spot, window, snap);
    if (!moved) return;
    const many = tickets.length > 1;
    const lane = window.lanes.find((l) => l.profile === (moved.profile ?? ticket.profile));
    const at = snap ? "its free slot" : formatClock(moved.time, me.clock24);
    const words = many ? "Moved." : `Moved ${lane?.handle} to ${formatDay(moved.date)}, ${at}.`;
    const sent = (whole: boolean) => {
      moves.mutate({ moves: moved.list, whole, words, places: snap ? undefined : moved.places });
      if (many) clear();
    };
    if (moved.profile !== undefined) sent(false);
    else withSiblings(tickets, words, sent);
  }

  function toTray(ticket: Ticket) {
    const tickets = movedWith(ticket, window, selected);
    withSiblings(tickets, "Taken off the calendar.", (whole) => {
      moves.mutate({ moves: moveToTray(tickets), whole, words: "Taken off the calendar." });
      clear();
    });
  }

  /** A draft onto a day: to that row's profile, or where there is no row to all of its own. */
  async function putDraft(draft: Draft, spot: Spot) {
    const date = window.days[spot.day ?? -1]?.date;
    if (!date) return;
    const when = {
      kind: spot.time ? ("at" as const) : ("day" as const),
      wall_time: `${date}T${spot.time ?? "12:00"}`,
      jitter: 0,
      seed: 0,
    };
    const body: Schemas["PlanIn"] = { when, profiles: spot.profile !== undefined ? [spot.profile] : null };
    try {
      const done = await planPost(brand.slug, draft.post, draft.revision, body);
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      const entry = done.undo;
      toast(`Planned for ${formatDay(date)}.`, { undo: entry ? () => undo(entry) : undefined });
    } catch (error) {
      toast(told(error as Error), { wrong: true });
    }
    await changed("delivery");
  }
  return { setDown, toTray, putDraft, ask, answer };
}
