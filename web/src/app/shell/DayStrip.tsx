import { Box, chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { api, got, type Schemas } from "@/api/client";
import { STATES } from "@/ui/StateShape";
import { clockWords, zoneWords } from "@/ui/times";
import { useHere } from "./BrandShell";

const BEAT = 60_000;
type Tick = Schemas["TickOut"];

/** The next 24 hours as a ruler: a tick for each delivery, and trouble as a notch. */
export function DayStrip() {
  const { brand, me } = useHere();
  const navigate = useNavigate();
  const strip = useQuery({
    queryKey: ["strip", brand.slug],
    queryFn: () => got(api.GET("/api/brands/{brand}/strip", { params: { path: { brand: brand.slug } } })),
    refetchInterval: BEAT,
  });
  const data = strip.data;
  const [time = "", day = ""] = (data?.clock ?? "").split(" ");
  const open = (id: number) =>
    navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: { open: id } });
  return (
    <Box
      as="section"
      aria-label="The next 24 hours"
      h="44px"
      borderBottomWidth="1px"
      borderColor="rule"
      bg="wash"
      display="flex"
      pl={{ base: "12px", md: "24px" }}
      pr="16px"
    >
      <Box
        w="96px"
        flex="none"
        pt="5px"
        fontSize="11px"
        lineHeight="14px"
        color="faded"
        title={data ? zoneWords(data.zone) : undefined}
      >
        <chakra.b display="block" fontSize="13px" lineHeight="16px" color="ink" fontVariantNumeric="tabular-nums">
          {time && clockWords(time, me.clock24)} {day}
        </chakra.b>
        next 24 h
      </Box>
      <Box position="relative" flex="1" minW="0" borderLeftWidth="2px" borderColor="pimenton">
        {data?.hours.map((hour, n) => {
          const big = Number(hour.label) % 3 === 0;
          const label = `${hour.label}-${n}`;
          return (
            <Box
              key={label}
              position="absolute"
              bottom="0"
              left={`${hour.share * 100}%`}
              h={big ? "12px" : "6px"}
              borderLeftWidth="1px"
              borderColor="faded"
              opacity={big ? 1 : 0.5}
            >
              {big && hour.share < 0.985 && (
                <chakra.span
                  position="absolute"
                  left="4px"
                  bottom="0"
                  fontSize="10.5px"
                  lineHeight="12px"
                  color="faded"
                  fontVariantNumeric="tabular-nums"
                  whiteSpace="nowrap"
                >
                  {me.clock24 ? hour.label : clockWords(`${hour.label}:00`, false)}
                </chakra.span>
              )}
            </Box>
          );
        })}
        {data && data.trouble > 0 && (
          <Notch
            left="0"
            words={`${data.trouble} in trouble or missed before now`}
            press={() => navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: {} })}
          />
        )}
        {stacks(data?.ticks ?? []).map((stack) => (
          <Stack key={stack[0]?.delivery} ticks={stack} open={open} />
        ))}
        {data && data.ticks.length === 0 && (
          <Box position="absolute" left="14px" top="8px" fontSize="12px" color="faded">
            Nothing goes out in the next 24 hours.
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** Ticks that share a quarter of an hour stand in one stack: the server says where each stands in it. */
function stacks(ticks: Tick[]): Tick[][] {
  const out: Tick[][] = [];
  for (const tick of ticks) {
    if (tick.stack === 0) out.push([tick]);
    else out.at(-1)?.push(tick);
  }
  return out;
}

const TROUBLE = new Set(["in_trouble", "missed"]);

function Stack({ ticks, open }: { ticks: Tick[]; open: (id: number) => void }) {
  const first = ticks[0];
  if (!first) return null;
  const bad = ticks.find((tick) => TROUBLE.has(tick.state));
  const left = `${first.share * 100}%`;
  const words = ticks.map((tick) => tick.words).join("\n");
  if (bad) return <Notch left={left} words={words} press={() => open(bad.delivery)} />;
  return (
    <chakra.button
      type="button"
      title={words}
      aria-label={words}
      onClick={() => open(first.delivery)}
      position="absolute"
      top="0"
      h="32px"
      w="24px"
      ml="-12px"
      left={left}
      cursor="pointer"
    >
      {ticks.slice(0, 3).map((tick) => (
        <Box
          key={tick.delivery}
          position="absolute"
          left="9px"
          top={`${24 - tick.stack * 8}px`}
          w="6px"
          h="7px"
          borderRadius="1px"
          bg={STATES[tick.state]?.colour}
        />
      ))}
    </chakra.button>
  );
}

function Notch({ left, words, press }: { left: string; words: string; press: () => void }) {
  return (
    <chakra.button
      type="button"
      title={words}
      aria-label={words}
      onClick={press}
      position="absolute"
      top="0"
      left={left}
      ml="-12px"
      w="24px"
      h="24px"
      cursor="pointer"
      color="pimenton"
    >
      <svg width="24" height="18" viewBox="0 0 24 18" aria-hidden="true">
        <path d="M3 0h18l-9 15z" fill="currentColor" />
        <path d="M12 2.5v6" stroke="var(--m-colors-paper)" strokeWidth="1.8" />
        <circle cx="12" cy="11" r="1.1" fill="var(--m-colors-paper)" />
      </svg>
    </chakra.button>
  );
}
