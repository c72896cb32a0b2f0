import { useQuery } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useMemo } from "react";
import type { CalendarWindow, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { rotaQueries } from "@/data/rotas";
import { formatClock } from "@/ui/times";
import { inkOf } from "./Labels";
import { useFirstCards } from "./pieces/usePieces";

export type Upcoming = Schemas["UpcomingOut"];

/** What the rotas will put into the window, by profile; nothing while a filter asks for more than profiles can answer. */
export function useUpcomingCards(window: CalendarWindow): Map<number, Upcoming[]> {
  const { brand } = useBrandContext();
  const { states, labels, campaigns, people, words } = useSearch({ from: "/$brand/calendar" });
  const narrowed = Boolean(states || labels || campaigns || people || words);
  const first = window.days[0]?.date ?? "";
  const days = window.days.length;
  const hasFirstCards = useFirstCards();
  const found = useQuery({
    ...rotaQueries.upcoming(brand.slug, first, days),
    enabled: hasFirstCards && !narrowed,
  }).data;
  return useMemo(() => Map.groupBy(narrowed ? [] : (found ?? []), (one) => one.profile), [found, narrowed]);
}

/** The same by day, for the profiles that the window shows. */
export function useUpcomingDays(window: CalendarWindow): Map<string, Upcoming[]> {
  const found = useUpcomingCards(window);
  return useMemo(
    () =>
      Map.groupBy(
        window.lanes.flatMap((lane) => found.get(lane.profile) ?? []).sort((a, b) => a.at.localeCompare(b.at)),
        (one) => one.date,
      ),
    [window.lanes, found],
  );
}

/** What leads from a turn that is to come to its rota, and its time in one's own hours. */
export function useToRota(one: Upcoming) {
  const { brand, me } = useBrandContext();
  return {
    time: formatClock(one.time, me.clock24),
    link: {
      to: "/$brand/rotas/$rota",
      params: { brand: brand.slug, rota: String(one.rota) },
      "data-coming": "",
      "data-stop": "",
    } as const,
  };
}

/** A turn of a rota that no post has been made of yet: faint, and it leads to its rota. On one line, or `lone` on two. */
export function UpcomingCard({ one, day, lone }: { one: Upcoming; day: string; lone?: boolean }) {
  const { time, link } = useToRota(one);
  // It begins with what can be read on the card, as a ticket's does.
  const words = `${time} ${one.headline || "no words yet"}, ${one.handle}, to come from a rota, ${day}`;
  return (
    <Link {...link} className="ticket" aria-label={words} title={words}>
      <span className="line">
        <i className="coming" style={{ borderColor: inkOf(one.ink) }} />
        {`${time} `}
        {!lone && <span className="who">{one.headline}</span>}
      </span>
      {lone && (
        <span className="words" style={{ display: "block" }}>
          {one.headline}
        </span>
      )}
    </Link>
  );
}
