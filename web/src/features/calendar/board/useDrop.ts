import { useState } from "react";
import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { planPost } from "@/data/posts";
import { addDays, formatClock, formatDay } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { told, useMoves, useUndo } from "../queries";
import type { Draft, Spot } from "./board";

type Move = Schemas["OneMoveIn"];
export type Ask = { count: number; words: string; go: (whole: boolean) => void };
const REMEMBERED = "menudo.whole";

/** What comes of setting cards down: one or many, with or without their sisters, to the tray, or a draft onto a day. */
export function useDrop(window: CalendarWindow, selected: ReadonlySet<number>, clear: () => void) {
  const { brand, me } = useBrandContext();
  const moves = useMoves(brand.slug);
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const [ask, setAsk] = useState<Ask | null>(null);

  /** Sisters that could go along are asked about, unless the answer was remembered for this session. */
  function withSisters(tickets: Ticket[], words: string, go: (whole: boolean) => void) {
    const posts = new Set(tickets.map((t) => t.post));
    const mine = new Set(tickets.map((t) => t.id));
    const count = window.tickets.filter((t) => t.moves && posts.has(t.post) && !mine.has(t.id)).length;
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

  const chosenWith = (ticket: Ticket) =>
    selected.has(ticket.id) && selected.size > 1
      ? window.tickets.filter((t) => selected.has(t.id) && t.moves)
      : [ticket];

  function setDown(ticket: Ticket, spot: Spot, snap: boolean) {
    const date = window.days[spot.day ?? -1]?.date;
    if (!date || spot.day === undefined) return;
    const by = spot.day - ticket.day;
    const tickets = chosenWith(ticket);
    const many = tickets.length > 1;
    const time = many ? undefined : spot.time;
    const profile = !many && spot.profile !== ticket.profile ? spot.profile : undefined;
    if (!by && !profile && !snap && (time ?? ticket.time) === ticket.time) return;
    const list: Move[] = tickets.map((t) => ({
      id: t.id,
      revision: t.revision,
      wall_time: `${addDays(window.days[0]?.date ?? date, t.day + by)}T${time ?? t.time}`,
      profile: profile ?? null,
      snap,
    }));
    const places = new Map(
      tickets.map((t) => [t.id, { day: t.day + by, time: time ?? t.time, profile: profile ?? t.profile }]),
    );
    const lane = window.lanes.find((l) => l.profile === (profile ?? ticket.profile));
    const at = snap ? "its free slot" : formatClock(time ?? ticket.time, me.clock24);
    const words = many ? "Moved." : `Moved ${lane?.handle} to ${formatDay(date)}, ${at}.`;
    const sent = (whole: boolean) => {
      moves.mutate({ moves: list, whole, words, places: snap ? undefined : places });
      if (many) clear();
    };
    if (profile !== undefined) sent(false);
    else withSisters(tickets, words, sent);
  }

  function toTray(ticket: Ticket) {
    const tickets = chosenWith(ticket);
    const list: Move[] = tickets.map((t) => ({
      id: t.id,
      revision: t.revision,
      wall_time: null,
      profile: null,
      snap: false,
    }));
    withSisters(tickets, "Taken off the calendar.", (whole) => {
      moves.mutate({ moves: list, whole, words: "Taken off the calendar." });
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
