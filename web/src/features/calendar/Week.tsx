import { Box, chakra } from "@chakra-ui/react";
import { useEffect, useMemo, useRef } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { formatClock, formatDay, formatWeekday } from "@/ui/times";
import { Bands } from "./Bands";
import { useBoard, useTools } from "./board/board";
import { Card } from "./board/Card";
import { SpotBox } from "./board/SpotBox";
import { DayHead } from "./DayHead";
import { useHeaps } from "./pieces/Heap";
import { HourHeaps, useHourHeight } from "./pieces/HourHeaps";
import { type Upcoming, UpcomingCard, useUpcomingDays } from "./UpcomingCard";

const HOUR_PX = 56;
const CARD_PX = 24;
/** A strip of each day stays free of cards, so that there is always a place to begin a post on. */
const FREE_PX = 24;
const COLUMNS = "56px repeat(7, minmax(0, 1fr))";
/** What shows through a card's notch. */
const ON_WASH = { "--under": "var(--m-colors-wash)" };
const HOURS = Array.from({ length: 24 }, (_, hour) => hour);
const two = (n: number) => String(n).padStart(2, "0");
const minutes = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));

/** Seven days by hours; a quarter of an hour is a place to set a card down on. */
export function Week({ window }: { window: CalendarWindow }) {
  const { me } = useBrandContext();
  const { carried, held } = useBoard();
  const coming = useUpcomingDays(window);
  const hourPx = useHourHeight(window, coming, HOUR_PX);
  const scroll = useRef<HTMLDivElement>(null);
  const heaps = useHeaps();
  // What is only counted lies in heaps: its cards come into sight with them.
  const tickets = window.gathered ? NONE : window.tickets;
  const byDay = useMemo(() => Map.groupBy(tickets, (t) => t.day), [tickets]);
  // One opens on the working day, or on the first card before it.
  const first = window.days[0]?.date;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each week opens at its own hour
  useEffect(() => {
    const hours = window.gathered?.heaps.map((heap) => (heap.hour ?? 0) * 60) ?? [];
    const earliest = Math.min(8 * 60, ...tickets.map((t) => minutes(t.time)), ...hours);
    scroll.current?.scrollTo({ top: ((earliest - 20) / 60) * hourPx });
  }, [first]);
  return (
    <Box mx={{ base: "12px", md: "24px" }} overflowX="auto" flex="1" minH="380px" display="flex" flexDirection="column">
      <Box
        role="grid"
        aria-label="Calendar: a column for each day, by hours"
        minW="900px"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="3px"
        bg="card"
        display="flex"
        flexDirection="column"
        flex="1"
        minH="0"
      >
        <Box role="row" display="grid" gridTemplateColumns={COLUMNS}>
          <Box role="columnheader" p="4px 6px" fontSize="11px" color="faded" alignSelf="end">
            Hour
          </Box>
          {window.days.map((day) => (
            <DayHead key={day.date} day={day} role="columnheader" />
          ))}
        </Box>
        <Bands bands={window.bands} days={window.days} columns={COLUMNS} words="Dates" />
        <Box ref={scroll} overflowY="auto" flex="1" maxH="62vh" borderTopWidth="1px" borderColor="rule">
          <Box role="row" display="grid" gridTemplateColumns={COLUMNS} position="relative" h={`${24 * hourPx}px`}>
            <Box role="rowheader" position="relative" fontSize="11px" color="faded">
              {HOURS.map((hour) => (
                <Box
                  key={hour}
                  position="absolute"
                  right="6px"
                  style={{ top: `${hour * hourPx - 7}px` }}
                  fontVariantNumeric="tabular-nums"
                >
                  {hour > 0 && formatClock(`${two(hour)}:00`, me.clock24)}
                </Box>
              ))}
            </Box>
            {window.days.map((day, column) => (
              <Box
                key={day.date}
                role="gridcell"
                data-row={0}
                data-column={column}
                position="relative"
                borderLeftWidth="1px"
                borderColor="rule"
                bg={day.weekday > 4 ? "wash" : undefined}
                css={day.weekday > 4 ? ON_WASH : undefined}
                minW="0"
              >
                {HOURS.map((hour) => (
                  <HourSpots
                    key={hour}
                    hourPx={hourPx}
                    day={column}
                    date={day.date}
                    hour={hour}
                    past={day.past}
                    busy={held !== null}
                  />
                ))}
                {window.gathered && (
                  <HourHeaps
                    heaps={heaps}
                    hourPx={hourPx}
                    mine={heaps.byDay.get(column) ?? []}
                    coming={coming.get(day.date) ?? NO_COMING}
                    words={`${formatWeekday(day.weekday)} ${formatDay(day.date)}`}
                    free={FREE_PX}
                  />
                )}
                {placed(
                  byDay.get(column)?.filter((t) => t.id !== carried?.ticket.id) ?? NONE,
                  window.gathered ? NO_COMING : (coming.get(day.date) ?? NO_COMING),
                ).map(({ one, lane, of }) => (
                  <Placed
                    key={"id" in one ? one.id : `${one.rota}${one.profile}${one.at}`}
                    one={one}
                    time={one.time}
                    hourPx={hourPx}
                    lane={lane}
                    of={of}
                    words={`${formatWeekday(day.weekday)} ${formatDay(day.date)}`}
                  />
                ))}
                {carried?.day === column && (
                  <Placed
                    one={carried.ticket}
                    time={carried.time}
                    hourPx={hourPx}
                    lane={0}
                    of={1}
                    words={`${formatWeekday(day.weekday)} ${formatDay(day.date)}`}
                    lifted
                  />
                )}
              </Box>
            ))}
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

const NONE: Ticket[] = [];
const NO_COMING: Upcoming[] = [];

/** Cards that would lie over one another stand side by side. */
function placed(tickets: Ticket[], coming: Upcoming[]): { one: Ticket | Upcoming; lane: number; of: number }[] {
  const out: { one: Ticket | Upcoming; lane: number; of: number }[] = [];
  let group: typeof out = [];
  let ends: number[] = [];
  const close = () => {
    for (const put of group) put.of = ends.length;
    group = [];
    ends = [];
  };
  const high = (CARD_PX / HOUR_PX) * 60;
  const all = [...tickets, ...coming].sort((a, b) => a.time.localeCompare(b.time));
  for (const one of all) {
    const at = minutes(one.time);
    if (ends.every((end) => end <= at)) close();
    let lane = ends.findIndex((end) => end <= at);
    if (lane < 0) lane = ends.length;
    ends[lane] = at + high;
    const put = { one, lane, of: 1 };
    group.push(put);
    out.push(put);
  }
  close();
  return out;
}

type PlacedProps = {
  one: Ticket | Upcoming;
  time: string;
  hourPx: number;
  lane: number;
  of: number;
  words: string;
  lifted?: boolean;
};

function Placed({ one, time, hourPx, lane, of, words, lifted }: PlacedProps) {
  const { lanes } = useBoard();
  const mine = lanes.get(one.profile);
  return (
    <Box
      position="absolute"
      zIndex={lifted ? 5 : 1}
      minH={`${CARD_PX}px`}
      style={{
        top: `${(minutes(time) / 60) * hourPx}px`,
        left: `calc((100% - ${FREE_PX}px) * ${lane / of})`,
        width: `calc((100% - ${FREE_PX}px) / ${of})`,
      }}
      p="0 2px"
    >
      {"id" in one ? (
        <Card
          ticket={one}
          handle={mine?.handle ?? ""}
          day={words}
          lone={false}
          who={of < 3 ? one.headline || mine?.handle : undefined}
          lifted={lifted}
          time={time}
        />
      ) : (
        <UpcomingCard one={one} day={words} />
      )}
    </Box>
  );
}

type SpotProps = { hourPx: number; day: number; date: string; hour: number; past: boolean; busy: boolean };

/** An hour: pressed it begins a post then; while a card is dragged, its quarters are places. */
function HourSpots({ hourPx, day, date, hour, past, busy }: SpotProps) {
  const { may } = useBrandContext();
  const { begin } = useTools();
  const look = { position: "absolute", left: "0", right: "0", borderTopWidth: "1px", borderColor: "rule" } as const;
  if (busy)
    return [0, 15, 30, 45].map((minute) => (
      <Box key={minute} asChild {...look} borderTopWidth={minute ? "0" : "1px"} h={`${hourPx / 4}px`}>
        <SpotBox
          spot={{ day, time: `${two(hour)}:${two(minute)}` }}
          id={`${day}:${hour}:${minute}`}
          style={{ top: `${(hour + minute / 60) * hourPx}px`, position: "absolute" }}
        />
      </Box>
    ));
  if (past || !may("write")) return <Box {...look} h={`${hourPx}px`} style={{ top: `${hour * hourPx}px` }} />;
  return (
    <chakra.button
      type="button"
      {...look}
      h={`${hourPx}px`}
      style={{ top: `${hour * hourPx}px` }}
      tabIndex={hour === 12 ? 0 : -1}
      data-stop={hour === 12 ? "" : undefined}
      aria-label={`New post on ${formatDay(date)} at ${two(hour)}:00`}
      cursor="pointer"
      color="transparent"
      _hover={{ color: "faded", bg: "wash" }}
      onClick={() => begin(date, undefined, `${two(hour)}:00`)}
    >
      <span aria-hidden>+</span>
    </chakra.button>
  );
}
