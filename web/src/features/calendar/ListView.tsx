import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useMemo } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import type { CalendarSearch } from "@/app/address";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatDay, formatWeekday } from "@/ui/times";
import { WhenInSight } from "@/ui/WhenInSight";
import { AlmanacMark } from "./Bands";
import { useBoard, useMarked, useTools } from "./board/board";
import { SpotBox } from "./board/SpotBox";
import { TicketLine, UpcomingLine } from "./ListLines";
import { dayPiece } from "./pieces/pieces";
import { usePieces, useWant } from "./pieces/usePieces";
import { type Upcoming, useUpcomingDays } from "./UpcomingCard";

type Sort = NonNullable<CalendarSearch["sort"]>;
const SORTS: [Sort, string][] = [
  ["time", "Time"],
  ["profile", "Profile"],
  ["state", "State"],
];

/** So many lines are drawn at once; of more, those in sight, so many at a time, each of about so many pixels. */
const DRAWN = 250;
const AT_A_TIME = 40;
const LINE = 46;

/** Deliveries one under another, by day; sorted within the day; ticked, many are acted on at once. */
export function ListView({ window, sort }: { window: CalendarWindow; sort: Sort }) {
  const { lanes } = useBoard();
  const { toggle } = useTools();
  const { selected } = useMarked();
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const coming = useUpcomingDays(window);
  const order = useMemo(() => {
    const key: Record<Sort, (one: Ticket | Upcoming) => string> = {
      time: (one) => one.time,
      profile: (one) => lanes.get(one.profile)?.handle ?? "",
      state: (one) => ("state" in one ? one.state : "~"),
    };
    return (a: Ticket | Upcoming, b: Ticket | Upcoming) =>
      key[sort](a).localeCompare(key[sort](b)) || a.time.localeCompare(b.time);
  }, [sort, lanes]);
  const { gathered } = window;
  const isShort = window.tickets.length <= DRAWN && !gathered;
  const counts = useMemo(() => {
    const byDay = Map.groupBy(gathered?.heaps ?? [], (heap) => heap.day);
    return new Map([...byDay].map(([day, heaps]) => [day, heaps.reduce((sum, heap) => sum + heap.count, 0)]));
  }, [gathered]);
  const byDay = useMemo(() => Map.groupBy(window.tickets, (t) => t.day), [window.tickets]);
  return (
    <Box mx={{ base: "12px", md: "24px" }} flex="none">
      <Flex gap="10px" align="center" fontSize="12px" color="faded" mb="6px">
        Sort within a day by
        {SORTS.map(([value, words]) => (
          <chakra.button
            key={value}
            type="button"
            aria-pressed={sort === value}
            onClick={() => navigate({ search: (s) => ({ ...s, sort: value === "time" ? undefined : value }) })}
            minH="24px"
            px="4px"
            cursor="pointer"
            fontWeight={sort === value ? "700" : "500"}
            color={sort === value ? "ink" : "faded"}
            textDecoration={sort === value ? "underline" : undefined}
          >
            {words}
          </chakra.button>
        ))}
      </Flex>
      {window.days.map((day, n) => {
        const mine = byDay.get(n) ?? [];
        const days = window.bands.almanac.filter((d) => d.day === n);
        const faint = coming.get(day.date) ?? [];
        const count = counts.get(n) ?? mine.length;
        if (!count && !days.length && !faint.length && !day.today) return null;
        const all = mine.every((t) => selected.has(t.id));
        const words = `${formatWeekday(day.weekday)} ${formatDay(day.date)}`;
        return (
          <SpotBox
            key={day.date}
            spot={{ day: n }}
            id={`list:${n}`}
            style={{ borderTop: `2px solid var(--m-colors-${day.today ? "ink" : "rule"})`, marginBottom: "10px" }}
          >
            <Flex align="center" gap="12px" py="6px">
              <Box as="h2" fontSize="17px" lineHeight="22px">
                {words}
                {day.today && ", today"}
              </Box>
              {gathered && count > 0 && (
                <Box fontSize="12px" color="faded">
                  {count} {count === 1 ? "delivery" : "deliveries"}
                </Box>
              )}
              {mine.length > 0 && mine.length >= count && (
                <chakra.button
                  type="button"
                  fontSize="12px"
                  color="anil"
                  minH="24px"
                  cursor="pointer"
                  onClick={() => {
                    for (const t of mine) if (all || !selected.has(t.id)) toggle(t.id, false);
                  }}
                >
                  {all ? "Choose none" : `Choose all ${mine.length}`}
                </chakra.button>
              )}
              <Flex gap="10px" flexWrap="wrap">
                {days.map((d) => (
                  <Box key={`${d.key}${d.name}`}>
                    <AlmanacMark day={d} />
                  </Box>
                ))}
              </Flex>
            </Flex>
            {gathered && count > 0 ? (
              <WhenInSight estimate={count * LINE}>
                {() => (
                  <PieceLines
                    day={n}
                    room={count * LINE}
                    lines={[...mine, ...faint].sort(order)}
                    from={n * 10_000}
                    words={words}
                  />
                )}
              </WhenInSight>
            ) : (
              <Lines lines={[...mine, ...faint].sort(order)} from={n * 10_000} day={words} all={isShort} />
            )}
            {count === 0 && faint.length === 0 && (
              <Box color="faded" pb="6px">
                Nothing goes out.
              </Box>
            )}
          </SpotBox>
        );
      })}
    </Box>
  );
}

type PieceProps = { day: number; room: number; lines: (Ticket | Upcoming)[]; from: number; words: string };

/** A day's lines once they are there: they are asked for while the day is in sight. */
function PieceLines({ day, room, lines, from, words }: PieceProps) {
  const { window } = useBoard();
  const { narrow, stateOf, again } = usePieces();
  const piece = dayPiece(window, narrow, day);
  useWant(`list ${day}`, [piece]);
  const state = stateOf(piece);
  if (state === "there") return <Lines lines={lines} from={from} day={words} all={false} />;
  // As much room as they will take: what lies below stays where it is.
  return (
    <div style={{ minHeight: room }}>
      {state === "failed" ? (
        <QueryFailed error={new Error("The deliveries of this day did not come.")} again={() => again(piece)} />
      ) : (
        <Loading />
      )}
    </div>
  );
}

type LinesProps = { lines: (Ticket | Upcoming)[]; from: number; day: string; all: boolean };

/** A day's lines; of a long list only those in sight are drawn. */
function Lines({ lines, from, day, all }: LinesProps) {
  const line = (one: Ticket | Upcoming, row: number) =>
    "id" in one ? (
      <TicketLine key={one.id} ticket={one} row={row} day={day} />
    ) : (
      <UpcomingLine key={`${one.rota}${one.profile}${one.at}`} one={one} row={row} />
    );
  if (all) return lines.map((one, n) => line(one, from + n));
  const starts = Array.from({ length: Math.ceil(lines.length / AT_A_TIME) }, (_, n) => n * AT_A_TIME);
  return starts.map((start) => {
    const some = lines.slice(start, start + AT_A_TIME);
    return (
      <WhenInSight key={start} estimate={some.length * LINE}>
        {() => some.map((one, n) => line(one, from + start + n))}
      </WhenInSight>
    );
  });
}
