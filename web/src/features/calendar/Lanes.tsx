import { Box } from "@chakra-ui/react";
import { useSearch } from "@tanstack/react-router";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { Fragment, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { CalendarWindow, Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import type { Piece } from "@/data/calendar";
import { useSets } from "@/features/profiles/queries";
import { Bands } from "./Bands";
import { useBoard } from "./board/board";
import { DayHead } from "./DayHead";
import { LaneRow } from "./LaneRow";
import { lanesPiece, runsOf } from "./pieces/pieces";
import { usePieces, useWant } from "./pieces/usePieces";
import { type Upcoming, useUpcomingCards } from "./UpcomingCard";

type Laid = Schemas["BatchRowOut"];
export const laneColumns = (days: number) => `200px repeat(${days}, minmax(0, 1fr))`;
/** So many lanes are drawn at once; of more, only those in sight. */
const ALL = 24;
/** How high a lane is at least, and each card of it, in pixels. */
const LANE_PX = 58;
const CARD_PX = 28;

/** A row for each profile, a column for each day; gaps hatched, crowds doubled at their edge. */
export function Lanes({ window, ghosts }: { window: CalendarWindow; ghosts: Laid[] }) {
  const coming = useUpcomingCards(window);
  const { carried } = useBoard();
  const columns = laneColumns(window.days.length);
  const cells = useCells(window.tickets);
  const laid = useMemo(() => Map.groupBy(ghosts, (g) => g.profile), [ghosts]);
  const marks = useMemo(() => new Map(window.marks.map((one) => [one.profile, one])), [window.marks]);
  const grouped = useGroups(window.lanes);
  const runs = useLaneRuns(window, grouped);
  const pieces = usePieces();
  const { again } = pieces;
  const stateOf = (piece: Piece | undefined) => (piece ? pieces.stateOf(piece) : "there");
  const row = ({ lane, title }: Grouped, n: number, hurried = false) => (
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
        marks={marks.get(lane.profile)}
        counts={runs?.counts.get(lane.profile)}
        run={runs?.of.get(lane.profile)}
        days={window.days}
        hurried={hurried}
        state={stateOf(runs?.of.get(lane.profile))}
        again={again}
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
        <Bands bands={window.bands} days={window.days} columns={columns} words="Almanac and campaigns" />
        {grouped.length > ALL ? (
          <Virtual lanes={grouped} row={row} runs={runs} />
        ) : (
          <>
            {grouped.map((lane, n) => row(lane, n))}
            {runs && <Want pieces={runs.pieces} />}
          </>
        )}
      </Box>
    </Box>
  );
}

const NO_TICKETS: CalendarWindow["tickets"] = [];
const NO_GHOSTS: Laid[] = [];
const NO_COMING: Upcoming[] = [];

type Grouped = { lane: Schemas["LaneOut"]; title: string };

/** Of lanes whose cards are only counted: the counts of each, and with which piece it is read. */
type LaneRuns = { counts: Map<number, Schemas["LaneCountOut"]>; of: Map<number, Piece>; pieces: Piece[] };

function useLaneRuns(window: CalendarWindow, grouped: Grouped[]): LaneRuns | null {
  const { narrow } = usePieces();
  const { gathered } = window;
  const order = grouped.map(({ lane }) => lane.profile).join();
  const isGathered = gathered !== null;
  const span = `${window.days[0]?.date} ${window.days.length}`;
  const counts = useMemo(() => new Map(gathered?.lanes.map((one) => [one.profile, one])), [gathered]);
  // The runs stay as they were while only the counts change: what was read with them is kept.
  // biome-ignore lint/correctness/useExhaustiveDependencies: made anew for other days, lanes or another filter
  const pieces = useMemo(() => {
    const totals = new Map([...counts].map(([profile, one]) => [profile, one.days.reduce((sum, n) => sum + n, 0)]));
    const runs = isGathered && order ? runsOf(order.split(",").map(Number), totals) : [];
    return runs.map((profiles) => ({ profiles, piece: lanesPiece(window, narrow, profiles) }));
  }, [isGathered, span, order, narrow]);
  return useMemo(() => {
    const of = new Map(pieces.flatMap(({ profiles, piece }) => profiles.map((profile) => [profile, piece])));
    return isGathered ? { counts, of, pieces: pieces.map(({ piece }) => piece) } : null;
  }, [isGathered, counts, pieces]);
}

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

/** Each lane's cards; the same list as before where they are the same, so that only lanes that changed are drawn anew. */
function useCells(tickets: Ticket[]): Map<number, Ticket[]> {
  const before = useRef(new Map<number, Ticket[]>());
  return useMemo(() => {
    const cells = Map.groupBy(tickets, (t) => t.profile);
    for (const [profile, mine] of cells) {
      const known = before.current.get(profile);
      if (known?.length === mine.length && known.every((t, n) => t === mine[n])) cells.set(profile, known);
    }
    before.current = cells;
    return cells;
  }, [tickets]);
}

/** While this is drawn the cards of these lanes are asked for. */
function Want({ pieces }: { pieces: Piece[] }) {
  useWant("lanes", pieces);
  return null;
}

type VirtualProps = {
  lanes: Grouped[];
  row: (lane: Grouped, n: number, hurried: boolean) => React.ReactNode;
  runs: LaneRuns | null;
};

/** Only the lanes in sight are drawn; each is measured once it is. */
function Virtual({ lanes, row, runs }: VirtualProps) {
  const box = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    if (box.current) setTop(box.current.getBoundingClientRect().top + globalThis.scrollY);
  }, []);
  const heightOf = (n: number) => {
    const counts = runs?.counts.get(lanes[n]?.lane.profile ?? 0);
    return runs ? Math.max(LANE_PX, 4 + CARD_PX * Math.max(0, ...(counts?.days ?? []))) : 84;
  };
  const rows = useWindowVirtualizer({
    count: lanes.length,
    estimateSize: heightOf,
    overscan: 6,
    scrollMargin: top,
    // How high a lane is once it is laid out: to ask for it before that would lay everything out once more.
    measureElement: (element, entry) =>
      entry?.borderBoxSize[0]?.blockSize ?? heightOf(Number(element.getAttribute("data-index"))),
  });
  const items = rows.getVirtualItems();
  const inSight = new Set(items.map((item) => runs?.of.get(lanes[item.index]?.lane.profile ?? 0)));
  return (
    <div ref={box} role="presentation" style={{ height: rows.getTotalSize(), position: "relative" }}>
      <Want pieces={[...inSight].filter((piece) => piece !== undefined)} />
      {items.map((item) => {
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
              {row(lane, item.index, rows.isScrolling)}
            </div>
          )
        );
      })}
    </div>
  );
}
