import { Box, chakra } from "@chakra-ui/react";
import { memo, useMemo } from "react";
import type { Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks } from "@/features/profiles/queries";
import { NetworkTile } from "@/ui/NetworkTile";
import { formatClock, formatDay, formatWeekday } from "@/ui/times";
import { type Carried, useBoard } from "./board/board";
import { Card } from "./board/Card";
import { SpotBox } from "./board/SpotBox";
import { type Upcoming, UpcomingCard } from "./UpcomingCard";

type Props = {
  lane: Schemas["LaneOut"];
  row: number;
  columns: string;
  tickets: Ticket[];
  ghosts: Schemas["BatchRowOut"][];
  coming: Upcoming[];
  carried: Carried | null;
};
const HATCH =
  "repeating-linear-gradient(135deg, transparent 0 5px, color-mix(in srgb, var(--m-colors-maize) 34%, transparent) 5px 6px)";

/** One profile's row of days. */
export const LaneRow = memo(function LaneRow({ lane, row, columns, tickets, ghosts, coming, carried }: Props) {
  const { window } = useBoard();
  const network = useNetworks().get(lane.network);
  const byDay = useMemo(() => Map.groupBy(tickets, (t) => t.day), [tickets]);
  const crowded = useMemo(() => new Set(lane.crowds.flatMap((c) => c.ids)), [lane.crowds]);
  const first = window.days[0]?.date ?? "";
  return (
    <Box
      role="row"
      aria-rowindex={row + 2}
      display="grid"
      gridTemplateColumns={columns}
      borderTopWidth="1px"
      borderColor="rule"
      minH="57px"
    >
      <Box role="rowheader" display="flex" alignItems="center" gap="10px" px="10px" py="4px" minW="0">
        {network && <NetworkTile letters={network.letters} shape={network.shape} />}
        <Box minW="0">
          <Box fontWeight="600" lineHeight="17px" overflowWrap="anywhere">
            {lane.display_name || lane.handle}
          </Box>
          <Box color={laneColour(lane)} fontSize="11.5px" lineHeight="14px">
            {laneWords(lane, network?.name)}
          </Box>
          {lane.crowds.length > 0 && (
            <Box
              color="maizeInk"
              fontSize="11px"
              lineHeight="13px"
              title={lane.crowds.map((c) => c.summary).join("\n")}
            >
              crowded {lane.crowds.length}×
            </Box>
          )}
        </Box>
      </Box>
      {window.days.map((day, column) => {
        const gap = lane.gaps.find((g) => g.first <= column && column <= g.last);
        return (
          <LaneCell
            key={day.date}
            {...{ lane, day, column, row, crowded }}
            gap={gap?.summary ?? ""}
            tickets={byDay.get(column) ?? NONE}
            ghosts={ghosts.filter((g) => g.wall_time && dayOf(g.wall_time, first) === column)}
            coming={coming.filter((one) => one.date === day.date)}
            carried={carried && (carried.day === column || carried.ticket.day === column) ? carried : null}
          />
        );
      })}
    </Box>
  );
});

const NONE: Ticket[] = [];
const MS = 86_400_000;
const dayOf = (wall: string, first: string) =>
  Math.round((Date.parse(`${wall.slice(0, 10)}T00:00Z`) - Date.parse(`${first}T00:00Z`)) / MS);

type CellProps = {
  lane: Schemas["LaneOut"];
  day: Schemas["DayOut"];
  column: number;
  row: number;
  tickets: Ticket[];
  ghosts: Schemas["BatchRowOut"][];
  coming: Upcoming[];
  crowded: ReadonlySet<number>;
  gap: string;
  carried: Carried | null;
};

/** One profile's day: its cards, or an empty spot to begin a post on. */
function LaneCell({ lane, day, column, row, tickets, ghosts, coming, crowded, gap, carried }: CellProps) {
  const { me, may } = useBrandContext();
  const { begin } = useBoard();
  const here = tickets.filter((t) => t.id !== carried?.ticket.id);
  const guest = carried && carried.profile === lane.profile && carried.day === column ? carried : null;
  const words = `${formatWeekday(day.weekday)} ${formatDay(day.date)}`;
  const count = here.length + (guest ? 1 : 0) + ghosts.length + coming.length;
  const hatched = gap && !day.past && count === 0;
  return (
    <SpotBox
      spot={{ profile: lane.profile, day: column }}
      id={`${lane.profile}:${column}`}
      role="gridcell"
      data-row={row}
      data-column={column}
      data-gap={hatched ? "" : undefined}
      title={hatched ? gap : undefined}
      borderLeftWidth="1px"
      borderColor="rule"
      p="2px"
      minW="0"
      display="flex"
      flexDirection="column"
      gap="2px"
      bg={day.weekday > 4 ? "wash" : undefined}
      style={hatched ? { backgroundImage: HATCH } : undefined}
    >
      {here.map((ticket) => (
        <Card
          key={ticket.id}
          ticket={ticket}
          handle={lane.handle}
          day={words}
          lone={count < 2}
          crowds={crowded.has(ticket.id)}
        />
      ))}
      {guest && (
        <Card ticket={guest.ticket} handle={lane.handle} day={words} lone={count < 2} lifted time={guest.time} />
      )}
      {ghosts.map((ghost) => (
        <div key={`${ghost.item}`} className="ticket" data-ghost="" title={ghost.headline}>
          <span className="line">◌ {formatClock(ghost.wall_time?.slice(11, 16) ?? "", me.clock24)}</span>
          <span className="words" style={{ display: "block" }}>
            {ghost.headline}
          </span>
        </div>
      ))}
      {coming.map((one) => (
        <UpcomingCard key={`${one.rota}${one.at}`} one={one} day={words} lone />
      ))}
      {count === 0 &&
        (may("write") && !day.past ? (
          <chakra.button
            type="button"
            data-stop=""
            aria-label={`New post for ${lane.handle} on ${words}${hatched ? `. ${gap}` : ""}`}
            onClick={() => begin(day.date, lane.profile)}
            flex="1"
            minH="24px"
            cursor="pointer"
            color="transparent"
            fontSize="18px"
            _hover={{ color: "faded" }}
            _focusVisible={{ color: "faded" }}
          >
            <span aria-hidden>+</span>
          </chakra.button>
        ) : (
          <Box data-stop="" tabIndex={-1} flex="1">
            <chakra.span position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
              {words}, nothing
            </chakra.span>
          </Box>
        ))}
    </SpotBox>
  );
}

const CALM = new Set(["connected", "by_hand", "disconnected"]);

function laneColour(lane: Schemas["LaneOut"]): string {
  if (lane.paused) return "maizeInk";
  return CALM.has(lane.state) ? "faded" : "pimenton";
}

/** The network, or what is out of the ordinary. */
function laneWords(lane: Schemas["LaneOut"], network: string | undefined): string {
  if (lane.paused) return "paused";
  if (lane.state === "connected") return network ?? "";
  return lane.state === "by_hand" ? `${network ?? ""} · by hand` : lane.state.replaceAll("_", " ");
}
