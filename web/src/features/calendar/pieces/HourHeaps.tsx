import { Box, useBreakpointValue } from "@chakra-ui/react";
import type { CalendarWindow } from "@/api/client";
import type { Upcoming } from "../UpcomingCard";
import { Heap, type HeapOf, HeapToCome, heapKey, type useHeaps } from "./Heap";

const HEAP_PX = 26;
const HOURS = Array.from({ length: 24 }, (_, hour) => hour);

type Props = {
  hourPx: number;
  /** How much of each day stays free of heaps, in pixels. */
  free: number;
  heaps: ReturnType<typeof useHeaps>;
  mine: HeapOf[];
  coming: Upcoming[];
  words: string;
};

/** About how wide a heap is, and how much room a day has for them at each width of the window, in pixels. */
const widthOf = (heap: HeapOf) => 37 + 8 * String(heap.count).length + (heap.trouble ? 16 : 0);
const ROOM = { base: 92, lg: 140, "2xl": 176 };

/** In how many rows these stand where each is as wide as that. */
export function rowsOf(widths: number[], room: number): number {
  let rows = widths.length ? 1 : 0;
  let used = 0;
  for (const width of widths) {
    if (used && used + width > room) {
      rows += 1;
      used = 0;
    }
    used += width;
  }
  return rows;
}

/** How high an hour is, in pixels: where it holds heaps, as high as the most of them are in their rows. */
export function useHourHeight(window: CalendarWindow, coming: Map<string, Upcoming[]>, least: number): number {
  const room = useBreakpointValue(ROOM) ?? ROOM.lg;
  if (!window.gathered) return least;
  const hours = Map.groupBy(window.gathered.heaps, (heap) => heap.day * 24 + (heap.hour ?? 0));
  const toCome = coming.size ? [70] : [];
  const most = Math.max(0, ...[...hours.values()].map((heaps) => rowsOf([...heaps.map(widthOf), ...toCome], room)));
  return Math.max(least, most * HEAP_PX + 4);
}

/** A day's cards by hour and network, where there are more than can be read. */
export function HourHeaps({ hourPx, free, heaps, mine, coming, words }: Props) {
  const byHour = Map.groupBy(mine, (heap) => heap.hour);
  const toCome = Map.groupBy(coming, (one) => Number(one.time.slice(0, 2)));
  return HOURS.filter((hour) => byHour.has(hour) || toCome.has(hour)).map((hour) => {
    const here = byHour.get(hour) ?? [];
    return (
      <Box
        key={hour}
        position="absolute"
        zIndex={here.some((heap) => heapKey(heap) === heaps.opened) ? 4 : 1}
        left="0"
        p="2px"
        display="flex"
        flexWrap="wrap"
        alignContent="flex-start"
        gap="2px"
        style={{ top: `${hour * hourPx}px`, width: `calc(100% - ${free}px)` }}
      >
        {here.map((heap) => (
          <Heap key={heapKey(heap)} heap={heap} day={words} heaps={heaps} />
        ))}
        {toCome.has(hour) && <HeapToCome count={toCome.get(hour)?.length ?? 0} />}
      </Box>
    );
  });
}
