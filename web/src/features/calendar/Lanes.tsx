import { Box } from "@chakra-ui/react";
import { useSearch } from "@tanstack/react-router";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { Fragment, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { CalendarWindow, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useSets } from "@/features/profiles/queries";
import { Bands } from "./Bands";
import { useBoard } from "./board/board";
import { DayHead } from "./DayHead";
import { LaneRow } from "./LaneRow";
import { type Upcoming, useUpcomingCards } from "./UpcomingCard";

type Laid = Schemas["BatchRowOut"];
export const laneColumns = (days: number) => `200px repeat(${days}, minmax(0, 1fr))`;
/** So many lanes are drawn at once; of more, only those in sight. */
const ALL = 24;

/** A row for each profile, a column for each day; gaps hatched, crowds doubled at their edge. */
export function Lanes({ window, ghosts }: { window: CalendarWindow; ghosts: Laid[] }) {
  const coming = useUpcomingCards(window);
  const { carried } = useBoard();
  const columns = laneColumns(window.days.length);
  const cells = useMemo(() => Map.groupBy(window.tickets, (t) => t.profile), [window.tickets]);
  const laid = useMemo(() => Map.groupBy(ghosts, (g) => g.profile), [ghosts]);
  const grouped = useGroups(window.lanes);
  const row = ({ lane, title }: Grouped, n: number) => (
    <Fragment key={`${title}${lane.profile}`}>
      {title && (
        <Box role="row" borderTopWidth="1px" borderColor="rule" bg="wash">
          <Box role="rowheader" fontFamily="heading" fontSize="14px" px="10px" py="3px">
            {title}
          </Box>
        </Box>
      )}
      <LaneRow
        key={lane.profile}
        lane={lane}
        row={n}
        columns={columns}
        tickets={cells.get(lane.profile) ?? NO_TICKETS}
        ghosts={laid.get(lane.profile) ?? NO_GHOSTS}
        coming={coming.get(lane.profile) ?? NO_COMING}
        carried={
          carried && (carried.profile === lane.profile || carried.ticket.profile === lane.profile) ? carried : null
        }
      />
    </Fragment>
  );
  return (
    <Box mx={{ base: "12px", md: "24px" }} overflowX="auto" flex="none">
      <Box
        role="grid"
        aria-label="Calendar: a row for each profile, a column for each day"
        aria-rowcount={window.lanes.length + 1}
        minW="1060px"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="3px"
        bg="card"
      >
        <Box role="row" display="grid" gridTemplateColumns={columns}>
          <Box role="columnheader" fontSize="11px" color="faded" p="4px 10px" alignSelf="end">
            {window.lanes.length} {window.lanes.length === 1 ? "profile" : "profiles"}
          </Box>
          {window.days.map((day) => (
            <DayHead key={day.date} day={day} role="columnheader" />
          ))}
        </Box>
        <Bands window={window} columns={columns} words="Almanac and campaigns" />
        {grouped.length <= ALL ? grouped.map(row) : <Virtual lanes={grouped} row={row} />}
      </Box>
    </Box>
  );
}

const NO_TICKETS: CalendarWindow["tickets"] = [];
const NO_GHOSTS: Laid[] = [];
const NO_COMING: Upcoming[] = [];

type Grouped = { lane: Schemas["LaneOut"]; title: string };

/** The lanes in their order, by network; or by set, each under the first set that names it. */
function useGroups(lanes: Schemas["LaneOut"][]): Grouped[] {
  const { brand } = useBrandContext();
  const { by } = useSearch({ from: "/$brand/calendar" });
  const sets = useSets(brand.slug).data;
  return useMemo(() => {
    if (by !== "set") return lanes.map((lane) => ({ lane, title: "" }));
    const setOf = (lane: Schemas["LaneOut"]) =>
      sets?.find((s) => s.profiles.includes(lane.profile))?.name ?? "In no set";
    const groups = Map.groupBy(lanes, setOf);
    const names = [...(sets ?? []).map((s) => s.name), "In no set"].filter((name) => groups.has(name));
    return names.flatMap((name) => (groups.get(name) ?? []).map((lane, n) => ({ lane, title: n === 0 ? name : "" })));
  }, [by, lanes, sets]);
}

/** Only the lanes in sight are drawn; each is measured once it is. */
function Virtual({ lanes, row }: { lanes: Grouped[]; row: (lane: Grouped, n: number) => React.ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    if (box.current) setTop(box.current.getBoundingClientRect().top + globalThis.scrollY);
  }, []);
  const rows = useWindowVirtualizer({ count: lanes.length, estimateSize: () => 84, overscan: 6, scrollMargin: top });
  return (
    <div ref={box} role="presentation" style={{ height: rows.getTotalSize(), position: "relative" }}>
      {rows.getVirtualItems().map((item) => {
        const lane = lanes[item.index];
        return (
          lane && (
            <div
              key={lane.lane.profile}
              role="presentation"
              data-index={item.index}
              ref={rows.measureElement}
              style={{
                position: "absolute",
                left: 0,
                right: 0,
                top: 0,
                transform: `translateY(${item.start - top}px)`,
              }}
            >
              {row(lane, item.index)}
            </div>
          )
        );
      })}
    </div>
  );
}
