import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useMemo } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import type { CalendarSearch } from "@/app/address";
import { useHere } from "@/app/shell/BrandShell";
import { useNetworks } from "@/features/profiles/queries";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape, stateWords } from "@/ui/StateShape";
import { clockWords, dayWords, weekdayWords } from "@/ui/times";
import { AlmanacMark } from "./Bands";
import { useBoard } from "./board/board";
import { SpotBox } from "./board/SpotBox";
import { ComingCard, useComingDays } from "./ComingCard";
import { InkMark } from "./Labels";
import { useLabels } from "./queries";
import { Thumb } from "./Tray";

type Sort = NonNullable<CalendarSearch["sort"]>;
const SORTS: [Sort, string][] = [
  ["time", "Time"],
  ["profile", "Profile"],
  ["state", "State"],
];

/** Deliveries one under another, by day; sorted within the day; ticked, many are acted on at once. */
export function ListView({ window, sort }: { window: CalendarWindow; sort: Sort }) {
  const { lanes, selected, toggle } = useBoard();
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const coming = useComingDays(window);
  const order = useMemo(() => {
    const key: Record<Sort, (t: Ticket) => string> = {
      time: (t) => t.time,
      profile: (t) => lanes.get(t.profile)?.handle ?? "",
      state: (t) => t.state,
    };
    return (a: Ticket, b: Ticket) =>
      a.day - b.day || key[sort](a).localeCompare(key[sort](b)) || a.time.localeCompare(b.time);
  }, [sort, lanes]);
  const byDay = useMemo(() => Map.groupBy([...window.tickets].sort(order), (t) => t.day), [window.tickets, order]);
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
        if (!mine.length && !days.length && !faint.length && !day.today) return null;
        const all = mine.every((t) => selected.has(t.id));
        return (
          <SpotBox
            key={day.date}
            spot={{ day: n }}
            id={`list:${n}`}
            borderTopWidth="2px"
            borderColor={day.today ? "ink" : "rule"}
            mb="10px"
          >
            <Flex align="center" gap="12px" py="6px">
              <Box as="h2" fontSize="17px" lineHeight="22px">
                {weekdayWords(day.weekday)} {dayWords(day.date)}
                {day.today && ", today"}
              </Box>
              {mine.length > 0 && (
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
            {mine.map((ticket, row) => (
              <Line
                key={ticket.id}
                ticket={ticket}
                row={n * 1000 + row}
                words={`${weekdayWords(day.weekday)} ${dayWords(day.date)}`}
              />
            ))}
            {faint.map((one) => (
              <Box key={`${one.rota}${one.profile}${one.at}`} maxW="520px" ml="34px" my="2px">
                <ComingCard one={one} day={`${weekdayWords(day.weekday)} ${dayWords(day.date)}`} />
              </Box>
            ))}
            {mine.length === 0 && faint.length === 0 && (
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

function Line({ ticket, row, words }: { ticket: Ticket; row: number; words: string }) {
  const { brand, me } = useHere();
  const { open, toggle, selected, lanes, carried } = useBoard();
  const networks = useNetworks();
  const labels = (useLabels(brand.slug).data ?? []).filter((l) => ticket.labels.includes(l.id));
  const lane = lanes.get(ticket.profile);
  const network = networks.get(lane?.network ?? "");
  const time = carried?.ticket.id === ticket.id ? carried.time : ticket.time;
  return (
    <Flex
      align="center"
      gap="10px"
      borderTopWidth="1px"
      borderColor="rule"
      py="3px"
      bg={selected.has(ticket.id) ? "anil/10" : undefined}
      data-row={row}
      data-column={0}
    >
      <chakra.label display="grid" placeItems="center" minW="24px" minH="24px" cursor="pointer">
        <input
          type="checkbox"
          checked={selected.has(ticket.id)}
          aria-label={`Choose ${lane?.handle}, ${words}, ${ticket.time}`}
          onChange={(e) => toggle(ticket.id, (e.nativeEvent as MouseEvent).shiftKey)}
        />
      </chakra.label>
      <chakra.button
        type="button"
        data-stop=""
        data-ticket={ticket.id}
        data-state={ticket.state}
        onClick={() => open(ticket.id)}
        flex="1"
        minW="0"
        display="grid"
        gridTemplateColumns={{ base: "84px 1fr", md: "96px 210px 44px minmax(0, 1fr) 180px" }}
        gap="10px"
        alignItems="center"
        textAlign="left"
        cursor="pointer"
        minH="40px"
        _hover={{ bg: "wash" }}
      >
        <Flex as="span" align="center" gap="6px" fontWeight="600" fontVariantNumeric="tabular-nums">
          <StateShape state={ticket.state} size={13} /> {clockWords(time, me.clock24)}
        </Flex>
        <Flex as="span" align="center" gap="8px" minW="0">
          {network && <NetworkTile letters={network.letters} shape={network.shape} size={20} />}
          <Box as="span" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
            {lane?.called || lane?.handle}
          </Box>
        </Flex>
        <Box as="span" display={{ base: "none", md: "block" }}>
          {ticket.thumb && <Thumb brand={brand.slug} asset={ticket.thumb} w="40px" h="36px" />}
        </Box>
        <Box
          as="span"
          overflow="hidden"
          textOverflow="ellipsis"
          whiteSpace="nowrap"
          gridColumn={{ base: "1 / -1", md: "auto" }}
        >
          {ticket.headline || <i>no words yet</i>}
        </Box>
        <Flex as="span" gap="8px" color="faded" fontSize="12px" flexWrap="wrap" display={{ base: "none", md: "flex" }}>
          {stateWords(ticket.state)}
          {labels.map((l) => (
            <Flex as="span" key={l.id} align="center" gap="4px" color="ink">
              <InkMark ink={l.ink} /> {l.name}
            </Flex>
          ))}
        </Flex>
      </chakra.button>
    </Flex>
  );
}
