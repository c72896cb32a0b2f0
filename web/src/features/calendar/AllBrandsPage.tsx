import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import type { Network, Schemas } from "@/api/client";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { MastFrame } from "@/app/shell/Masthead";
import { calendarQueries } from "@/data/calendar";
import { profileQueries } from "@/data/profiles";
import { useMe } from "@/features/people/queries";
import { SignedIn } from "@/features/people/SignedIn";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape } from "@/ui/StateShape";
import { Toasts } from "@/ui/Toasts";
import { addDays, formatDay, formatWeekday, formatZone } from "@/ui/times";
import { TicketCard, ticketWords } from "./board/TicketCard";
import { DayHead } from "./DayHead";
import "./pieces/heap.css";

type Brand = Schemas["AllBrandOut"];
type Day = Schemas["DayOut"];
const COLUMNS = "200px repeat(14, minmax(0, 1fr))";

/** The calendar across all of one's brands: each in its own zone, each card leading to its brand. */
export function AllBrandsPage() {
  return (
    <SignedIn>
      <Everywhere />
      <Toasts />
    </SignedIn>
  );
}

function Everywhere() {
  const me = useMe().data;
  const { from } = useSearch({ from: "/all" });
  const navigate = useNavigate({ from: "/all" });
  const all = useQuery(calendarQueries.allBrands(from));
  if (!me) return null;
  const days = all.data?.days ?? [];
  const first = days[0]?.date;
  return (
    <>
      <MastFrame brand={null} me={me} home="/all">
        <Box flex="1" />
      </MastFrame>
      <Box as="main" pb="24px">
        <Flex align="center" gap="14px" px={{ base: "12px", md: "24px" }} pt="14px" pb="10px" flexWrap="wrap">
          <Box as="h1" fontSize="28px" lineHeight="32px">
            All brands{first ? `, ${formatDay(first)} – ${formatDay(days.at(-1)?.date ?? first)}` : ""}
          </Box>
          <Flex>
            <Button
              kind="quiet"
              aria-label="A week earlier"
              onClick={() => first && navigate({ search: { from: addDays(first, -7) } })}
            >
              ‹
            </Button>
            <Button kind="quiet" onClick={() => navigate({ search: {} })}>
              Today
            </Button>
            <Button
              kind="quiet"
              aria-label="A week later"
              onClick={() => first && navigate({ search: { from: addDays(first, 7) } })}
            >
              ›
            </Button>
          </Flex>
        </Flex>
        {all.error && !all.data ? (
          <QueryFailed error={all.error} again={() => all.refetch()} />
        ) : !all.data ? (
          <Loading />
        ) : all.data.brands.length === 0 ? (
          <EmptyState
            title="No brand yet"
            words="You belong to no brand. Make one, or ask its coordinator to invite you."
          />
        ) : (
          <Box mx={{ base: "12px", md: "24px" }} overflowX="auto">
            <Box minW="1060px" borderWidth="1px" borderColor="rule" borderRadius="3px" bg="card">
              <DayHeads days={days} />
              {all.data.brands.map((brand) => (
                <BrandLanes key={brand.slug} brand={brand} days={days} clock24={me.clock24} />
              ))}
            </Box>
          </Box>
        )}
      </Box>
    </>
  );
}

function DayHeads({ days }: { days: Day[] }) {
  return (
    <Box display="grid" gridTemplateColumns={COLUMNS}>
      <span />
      {days.map((day) => (
        <DayHead key={day.date} day={day} />
      ))}
    </Box>
  );
}

/** What shows through a card's notch. */
const ON_WASH = { "--under": "var(--m-colors-wash)" };
const NO_NETWORKS = new Map<string, Network>();

/** Of a brand with more cards than can be read here: how many of each network stand on each day, each count leading to them. */
function NetworkRows({ brand, days }: { brand: Brand; days: Day[] }) {
  const byNetwork = Map.groupBy(brand.heaps, (heap) => heap.network);
  const networks = useQuery(profileQueries.networks(brand.slug)).data ?? NO_NETWORKS;
  return [...byNetwork].map(([name, heaps]) => {
    const network = networks.get(name);
    const called = network?.name ?? name;
    return (
      <Box key={name} display="grid" gridTemplateColumns={COLUMNS} borderTopWidth="1px" borderColor="rule" minH="40px">
        <Flex p="6px 10px" minW="0" gap="8px" align="center" fontWeight="600">
          {network && <NetworkTile letters={network.letters} shape={network.shape} size={20} />} {called}
        </Flex>
        {days.map((day, n) => {
          const heap = heaps.find((one) => one.day === n);
          return (
            <Box
              key={day.date}
              p="2px"
              borderLeftWidth="1px"
              borderColor="rule"
              minW="0"
              bg={day.weekday > 4 ? "wash" : undefined}
            >
              {heap && (
                <Link
                  className="heap"
                  to="/$brand/calendar"
                  params={{ brand: brand.slug }}
                  search={{ view: "list", from: day.date, networks: name }}
                  data-trouble={heap.trouble ? "" : undefined}
                  aria-label={`${heap.count} on ${called}, ${formatWeekday(day.weekday)} ${formatDay(day.date)}${heap.trouble ? `, ${heap.trouble} in trouble` : ""}`}
                >
                  <b>{heap.count}</b>
                  {heap.trouble > 0 && <StateShape state="in_trouble" size={11} />}
                </Link>
              )}
            </Box>
          );
        })}
      </Box>
    );
  });
}

function BrandLanes({ brand, days, clock24 }: { brand: Brand; days: Day[]; clock24: boolean }) {
  const cells = Map.groupBy(brand.tickets, (t) => `${t.profile}:${t.day}`);
  return (
    <section aria-label={brand.name}>
      <Flex align="center" gap="8px" p="6px 10px" borderTopWidth="2px" borderColor="ink" bg="wash">
        <BrandBlock ink={brand.ink} name={brand.name} size={20} />
        <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{}} style={{ fontWeight: 600 }}>
          {brand.name}
        </Link>
        <Box color="faded" fontSize="12px">
          {formatZone(brand.zone)}
          {brand.lanes.length === 0 && brand.heaps.length === 0 && " · no profiles yet"}
          {brand.heaps.length > 0 && ` · ${brand.heaps.reduce((sum, heap) => sum + heap.count, 0)} in these days`}
        </Box>
      </Flex>
      {brand.heaps.length > 0 && <NetworkRows brand={brand} days={days} />}
      {brand.lanes.map((lane) => (
        <Box
          key={lane.profile}
          display="grid"
          gridTemplateColumns={COLUMNS}
          borderTopWidth="1px"
          borderColor="rule"
          minH="40px"
        >
          <Box p="6px 10px" minW="0">
            <Box fontWeight="600" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
              {lane.display_name || lane.handle}
            </Box>
          </Box>
          {days.map((day, n) => (
            <Flex
              key={day.date}
              direction="column"
              gap="2px"
              p="2px"
              borderLeftWidth="1px"
              borderColor="rule"
              minW="0"
              bg={day.weekday > 4 ? "wash" : undefined}
              css={day.weekday > 4 ? ON_WASH : undefined}
            >
              {(cells.get(`${lane.profile}:${n}`) ?? []).map((ticket, _, here) => {
                const words = ticketWords(
                  ticket,
                  lane.handle,
                  `${formatWeekday(day.weekday)} ${formatDay(day.date)}`,
                  clock24,
                );
                return (
                  <Link
                    key={ticket.id}
                    to="/$brand/calendar"
                    params={{ brand: brand.slug }}
                    search={{ open: ticket.id, from: days[0]?.date }}
                    aria-label={words}
                    data-state={ticket.state}
                  >
                    <TicketCard ticket={ticket} clock24={clock24} lone={here.length < 2} words={words} />
                  </Link>
                );
              })}
            </Flex>
          ))}
        </Box>
      ))}
    </section>
  );
}
