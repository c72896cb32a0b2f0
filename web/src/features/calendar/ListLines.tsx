import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import type { Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatClock } from "@/ui/times";
import { useBoard, useMarked, useTools } from "./board/board";
import { InkMark, inkOf } from "./Labels";
import { Thumb } from "./Tray";
import { type Upcoming, useToRota } from "./UpcomingCard";

type TicketProps = { ticket: Ticket; row: number; day: string };

/** A delivery in the list: ticked, it is acted on with others; pressed, it opens. */
export function TicketLine({ ticket, row, day }: TicketProps) {
  const { brand, me } = useBrandContext();
  const { lanes, carried } = useBoard();
  const { open, toggle, labels: all } = useTools();
  const { selected } = useMarked();
  const labels = ticket.labels.flatMap((id) => all.get(id) ?? []);
  const time = carried?.ticket.id === ticket.id ? carried.time : ticket.time;
  return (
    <Line row={row} picked={selected.has(ticket.id)}>
      <chakra.label display="grid" placeItems="center" minW="24px" minH="24px" cursor="pointer">
        <input
          type="checkbox"
          checked={selected.has(ticket.id)}
          aria-label={`Choose ${lanes.get(ticket.profile)?.handle}, ${day}, ${ticket.time}`}
          onChange={(e) => toggle(ticket.id, (e.nativeEvent as MouseEvent).shiftKey)}
        />
      </chakra.label>
      <chakra.button
        type="button"
        data-stop=""
        data-ticket={ticket.id}
        data-state={ticket.state}
        onClick={() => open(ticket.id)}
        {...COLUMNS}
      >
        <Cells
          mark={<StateShape state={ticket.state} size={13} />}
          time={formatClock(time, me.clock24)}
          profile={ticket.profile}
          picture={ticket.thumb && <Thumb brand={brand.slug} asset={ticket.thumb} w="40px" h="36px" />}
          headline={ticket.headline}
        >
          {stateWords(ticket.state)}
          {labels.map((l) => (
            <Flex as="span" key={l.id} align="center" gap="4px" color="ink">
              <InkMark ink={l.ink} /> {l.name}
            </Flex>
          ))}
        </Cells>
      </chakra.button>
    </Line>
  );
}

/** A turn of a rota that no post has been made of yet, in the list: it leads to its rota. */
export function UpcomingLine({ one, row }: { one: Upcoming; row: number }) {
  const { time, link } = useToRota(one);
  const ring = (
    <Box as="i" boxSize="13px" borderWidth="2px" borderRadius="50%" style={{ borderColor: inkOf(one.ink) }} />
  );
  return (
    <Line row={row}>
      <Box w="24px" />
      <Box asChild {...COLUMNS} color="faded">
        <Link {...link}>
          <Cells mark={ring} time={time} profile={one.profile} headline={one.headline}>
            to come, from a rota
          </Cells>
        </Link>
      </Box>
    </Line>
  );
}

function Line({ row, picked, children }: { row: number; picked?: boolean; children: ReactNode }) {
  return (
    <Flex
      align="center"
      gap="10px"
      borderTopWidth="1px"
      borderColor="rule"
      py="3px"
      bg={picked ? "anil/10" : undefined}
      data-row={row}
      data-column={0}
    >
      {children}
    </Flex>
  );
}

const COLUMNS = {
  flex: "1",
  minW: "0",
  display: "grid",
  gridTemplateColumns: { base: "84px 1fr", md: "96px 210px 44px minmax(0, 1fr) 180px" },
  gap: "10px",
  alignItems: "center",
  textAlign: "left",
  cursor: "pointer",
  minH: "40px",
  _hover: { bg: "wash" },
} as const;

type CellsProps = {
  mark: ReactNode;
  time: string;
  profile: number;
  picture?: ReactNode;
  headline: string;
  children: ReactNode;
};

/** What stands in a line: when, for whom, its picture, its first words, and how it is. */
function Cells({ mark, time, profile, picture, headline, children }: CellsProps) {
  const lane = useBoard().lanes.get(profile);
  const network = useTools().networks.get(lane?.network ?? "");
  return (
    <>
      <Flex as="span" align="center" gap="6px" fontWeight="600" fontVariantNumeric="tabular-nums">
        {mark} {time}
      </Flex>
      <Flex as="span" align="center" gap="8px" minW="0">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={20} />}
        <Box as="span" truncate>
          {lane?.display_name || lane?.handle}
        </Box>
      </Flex>
      <Box as="span" display={{ base: "none", md: "block" }}>
        {picture}
      </Box>
      <Box as="span" truncate gridColumn={{ base: "1 / -1", md: "auto" }}>
        {headline || <i>no words yet</i>}
      </Box>
      <Flex as="span" gap="8px" color="faded" fontSize="12px" flexWrap="wrap" display={{ base: "none", md: "flex" }}>
        {children}
      </Flex>
    </>
  );
}
