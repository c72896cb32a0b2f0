import { Box, chakra } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { formatDay, formatWeekday } from "@/ui/times";
import { AlmanacMark } from "./Bands";
import { type Carried, useBoard, useTools } from "./board/board";
import { Card } from "./board/Card";
import { SpotBox } from "./board/SpotBox";
import { inkOf } from "./Labels";
import { Heap, HeapToCome, heapKey, useHeaps } from "./pieces/Heap";
import { type Upcoming, UpcomingCard, useUpcomingDays } from "./UpcomingCard";
import "./month.css";

const SHOWN = 5;
const WEEK = [0, 1, 2, 3, 4, 5, 6];

/** Whole weeks, a cell for each day; more than five cards of a day wait behind a press. */
export function Month({ window, month }: { window: CalendarWindow; month: string }) {
  const { carried } = useBoard();
  const coming = useUpcomingDays(window);
  const heaps = useHeaps();
  // What is only counted lies in heaps: its cards come into sight with them.
  const byDay = useMemo(() => Map.groupBy(window.gathered ? NONE : window.tickets, (t) => t.day), [window]);
  const weeks = Math.ceil(window.days.length / 7);
  return (
    <Box mx={{ base: "12px", md: "24px" }} overflowX="auto" flex="none">
      <Box
        role="grid"
        aria-label="Calendar: a row for each week, a column for each weekday"
        minW="900px"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="3px"
        bg="card"
      >
        <Box role="row" display="grid" gridTemplateColumns="repeat(7, minmax(0, 1fr))">
          {WEEK.map((weekday) => (
            <Box
              key={weekday}
              role="columnheader"
              p="4px 8px"
              fontSize="11px"
              color="faded"
              borderLeftWidth="1px"
              borderColor="rule"
            >
              {formatWeekday(weekday)}
            </Box>
          ))}
        </Box>
        {Array.from({ length: weeks }, (_, week) => (
          <Box key={window.days[week * 7]?.date} role="presentation" borderTopWidth="1px" borderColor="rule">
            <CampaignLines window={window} week={week} />
            <Box role="row" display="grid" gridTemplateColumns="repeat(7, minmax(0, 1fr))" minH="104px">
              {WEEK.map((weekday) => {
                const n = week * 7 + weekday;
                const day = window.days[n];
                if (!day) return null;
                const mine = carried && (carried.day === n || carried.ticket.day === n) ? carried : null;
                return (
                  <DayCell
                    key={day.date}
                    {...{ day, n, week, weekday }}
                    tickets={byDay.get(n) ?? NONE}
                    heaps={heaps}
                    coming={coming.get(day.date) ?? NO_COMING}
                    outside={day.date.slice(0, 7) !== month}
                    carried={mine}
                  />
                );
              })}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const NONE: Ticket[] = [];
const NO_COMING: Upcoming[] = [];

function CampaignLines({ window, week }: { window: CalendarWindow; week: number }) {
  const mine = window.bands.campaigns.filter((c) => c.first < week * 7 + 7 && c.last >= week * 7);
  if (!mine.length) return null;
  return (
    <Box role="row" display="grid" gridTemplateColumns="repeat(7, minmax(0, 1fr))" fontSize="11px" lineHeight="14px">
      {mine.map((c, n) => (
        <Box
          key={c.id}
          role="gridcell"
          gridRow={n + 1}
          m="1px 2px"
          px="6px"
          borderBottomWidth="3px"
          fontWeight="600"
          whiteSpace="nowrap"
          overflow="hidden"
          textOverflow="ellipsis"
          title={`Campaign ${c.name}`}
          style={{
            gridColumn: `${Math.max(c.first - week * 7, 0) + 1} / ${Math.min(c.last - week * 7, 6) + 2}`,
            borderColor: inkOf(c.ink),
          }}
        >
          {c.name}
        </Box>
      ))}
    </Box>
  );
}

type CellProps = {
  day: Schemas["DayOut"];
  n: number;
  week: number;
  weekday: number;
  tickets: Ticket[];
  heaps: ReturnType<typeof useHeaps>;
  coming: Upcoming[];
  outside: boolean;
  carried: Carried | null;
};

function DayCell({ day, n, week, weekday, tickets, heaps, coming, outside, carried }: CellProps) {
  const { may } = useBrandContext();
  const { lanes, window } = useBoard();
  const { begin } = useTools();
  const [all, setAll] = useState(false);
  const words = `${formatWeekday(day.weekday)} ${formatDay(day.date)}`;
  const here = tickets.filter((t) => t.id !== carried?.ticket.id);
  const guest = carried && carried.day === n ? carried : null;
  const shown = all ? here : here.slice(0, SHOWN);
  const mine = heaps.byDay.get(n) ?? [];
  const faint = all ? coming : coming.slice(0, mine.length ? 0 : Math.max(0, SHOWN - here.length));
  const more = here.length - shown.length + (mine.length ? 0 : coming.length - faint.length);
  const days = window.bands.almanac.filter((d) => d.day === n);
  return (
    <SpotBox
      spot={{ day: n }}
      id={`day:${n}`}
      role="gridcell"
      data-row={week}
      data-column={weekday}
      className="month-day"
      data-outside={outside ? "" : undefined}
    >
      <Box display="flex" alignItems="center" gap="6px" minH="22px">
        <Box
          fontFamily="heading"
          fontSize="14px"
          px="4px"
          bg={day.today ? "ink" : undefined}
          color={day.today ? "paper" : outside || day.past ? "faded" : "ink"}
          aria-current={day.today ? "date" : undefined}
        >
          {Number(day.date.slice(8)) === 1 ? formatDay(day.date) : Number(day.date.slice(8))}
        </Box>
        {weekday === 0 && (
          <Box as="span" color="faded" fontSize="10.5px">
            week {day.week}
          </Box>
        )}
        <Box flex="1" />
        {may("write") && !day.past && (
          <chakra.button
            type="button"
            data-stop=""
            aria-label={`New post on ${words}`}
            onClick={() => begin(day.date)}
            color="faded"
            minW="24px"
            minH="24px"
            opacity="0.35"
            cursor="pointer"
            _hover={{ opacity: 1 }}
            _focusVisible={{ opacity: 1 }}
          >
            +
          </chakra.button>
        )}
      </Box>
      {days.map((d) => (
        <AlmanacMark key={`${d.key}${d.name}`} day={d} />
      ))}
      {mine.map((heap) => (
        <Heap key={heapKey(heap)} heap={heap} day={words} heaps={heaps} />
      ))}
      {mine.length > 0 && coming.length > 0 && <HeapToCome count={coming.length} />}
      {shown.map((ticket) => {
        const lane = lanes.get(ticket.profile);
        return (
          <Card
            key={ticket.id}
            ticket={ticket}
            handle={lane?.handle ?? ""}
            day={words}
            lone={false}
            who={ticket.headline || lane?.handle}
          />
        );
      })}
      {guest && (
        <Card
          ticket={guest.ticket}
          handle={lanes.get(guest.profile)?.handle ?? ""}
          day={words}
          lone={false}
          lifted
          time={guest.time}
          who={lanes.get(guest.profile)?.handle}
        />
      )}
      {faint.map((one) => (
        <UpcomingCard key={`${one.rota}${one.profile}${one.at}`} one={one} day={words} />
      ))}
      {(all || more > 0) && (
        <chakra.button
          type="button"
          data-stop=""
          onClick={() => setAll(!all)}
          fontSize="11px"
          color="anil"
          textAlign="left"
          minH="24px"
          cursor="pointer"
          px="4px"
          aria-label={all ? `Show fewer of ${words}` : `${more} more on ${words}`}
        >
          {all ? "Show fewer" : `${more} more`}
        </chakra.button>
      )}
    </SpotBox>
  );
}
