import { Box, chakra } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useCallback, useRef, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { formatClock, formatZone } from "@/ui/times";
import { isDense, TickGroup, tickGroups, tickItems } from "./DayTicks";
import { useStrip } from "./useStrip";

/** The next 24 hours as a ruler: a tick for each delivery, and trouble as a notch. */
export function DayStrip() {
  const { brand, me } = useBrandContext();
  const navigate = useNavigate();
  const strip = useStrip();
  const data = strip.data;
  const [time = "", day = ""] = (data?.clock ?? "").split(" ");
  const [width, ruler] = useWidth();
  const ticks = tickItems(data);
  const groups = tickGroups(ticks, width);
  const most = isDense(ticks) ? Math.max(...groups.map((group) => group.length)) : 0;
  const open = (id: number | null) =>
    navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: id === null ? {} : { open: id } });
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
        title={data ? formatZone(data.zone) : undefined}
      >
        <chakra.b display="block" fontSize="13px" lineHeight="16px" color="ink" fontVariantNumeric="tabular-nums">
          {time && formatClock(time, me.clock24)} {day}
        </chakra.b>
        next 24 h
      </Box>
      <Box ref={ruler} position="relative" flex="1" minW="0" borderLeftWidth="2px" borderColor="pimenton">
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
                  {me.clock24 ? hour.label : formatClock(`${hour.label}:00`, false)}
                </chakra.span>
              )}
            </Box>
          );
        })}
        {groups.map((group) => (
          <TickGroup key={group[0]?.key} items={group} width={width} most={most} open={open} />
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

/** How wide an element is, in pixels, as it changes. */
function useWidth(): [number, (element: HTMLElement | null) => void] {
  const [width, setWidth] = useState(1000);
  const watched = useRef<ResizeObserver | null>(null);
  const watch = useCallback((element: HTMLElement | null) => {
    watched.current?.disconnect();
    if (!element) return;
    watched.current = new ResizeObserver(() => setWidth(element.clientWidth));
    watched.current.observe(element);
  }, []);
  return [width, watch];
}
