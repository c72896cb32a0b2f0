import { Box, chakra, Menu, Portal } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { STATES } from "@/ui/StateShape";

type Strip = Schemas["StripOut"];
/** One thing on the strip: a delivery, or the trouble from before now (delivery null). */
export type TickItem = {
  key: string;
  share: number;
  stack: number;
  state: string;
  summary: string;
  delivery: number | null;
};

const TROUBLE = new Set(["in_trouble", "missed"]);
/** A target is at least so wide (WCAG 2.2, 2.5.8): what stands closer together is pressed as one, and then chosen from. */
const TARGET_PX = 24;

export function tickItems(strip: Strip | undefined): TickItem[] {
  if (!strip) return [];
  const before = strip.trouble
    ? [
        {
          key: "trouble",
          share: 0,
          stack: 0,
          state: "in_trouble",
          summary: `${strip.trouble} in trouble or missed before now`,
          delivery: null,
        },
      ]
    : [];
  return [...before, ...strip.ticks.map((tick) => ({ ...tick, key: String(tick.delivery) }))];
}

/** More than so many are no ticks that can be told apart: they are gathered by a time, with their count. */
const MOST_TICKS = 60;
/** What gathers them is some whole quarters of an hour, as few as give a target its width. */
const QUARTERS = 96;
export const isDense = (all: TickItem[]) => all.length > MOST_TICKS;
export const gatherWidth = (width: number) =>
  Math.ceil((TARGET_PX * QUARTERS) / Math.max(width, 1)) * (width / QUARTERS);

/** Things too close together for targets of their own, put together; in order of time. Where they are many, by equal spans of it. */
export function tickGroups(all: TickItem[], width: number): TickItem[][] {
  const out: TickItem[][] = [];
  if (isDense(all)) {
    const span = gatherWidth(width) / width;
    return [...Map.groupBy(all, (item) => Math.floor(item.share / span)).values()];
  }
  for (const item of all) {
    const last = out.at(-1)?.at(-1);
    if (last && (item.share - last.share) * width < TARGET_PX) out.at(-1)?.push(item);
    else out.push([item]);
  }
  return out;
}

const Target = chakra("button", {
  base: { position: "absolute", top: "0", h: "32px", ml: "-12px", cursor: "pointer" },
});

type Props = { items: TickItem[]; width: number; most: number; open: (delivery: number | null) => void };

/** A tick or several: one opens at a press, several are offered to choose from. `most`: how many the largest group has, where they are
 * gathered; else 0. */
export function TickGroup({ items, width, most, open }: Props) {
  const first = items[0];
  const last = items.at(-1);
  if (!first || !last) return null;
  const words = [
    ...(items.length > 3 ? [`${items.length} at about one time`] : []),
    ...items.map((i) => i.summary),
  ].join("\n");
  const span = gatherWidth(width);
  const at = most
    ? { left: Math.floor((first.share * width) / span) * span, width: span, marginLeft: 0 }
    : { left: `${first.share * 100}%`, width: (last.share - first.share) * width + TARGET_PX };
  const marks = most ? (
    <Heap items={items} most={most} />
  ) : (
    items.map((item) => <Mark key={item.key} item={item} left={(item.share - first.share) * width} />)
  );
  if (items.length === 1) {
    return (
      <Target type="button" title={words} aria-label={words} style={at} onClick={() => open(first.delivery)}>
        {marks}
      </Target>
    );
  }
  return (
    <Menu.Root lazyMount unmountOnExit>
      <Menu.Trigger asChild>
        <Target type="button" title={words} aria-label={words} style={at}>
          {marks}
        </Target>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList maxH="60vh" overflowY="auto">
            {items.map((item) => (
              <MenuRow key={item.key} value={item.key} onSelect={() => open(item.delivery)}>
                {item.summary}
              </MenuRow>
            ))}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}

/** Many at about one time: their count over a bar, beside the highest as high as they are many; in the colour of trouble where there is
 * any. */
function Heap({ items, most }: { items: TickItem[]; most: number }) {
  const trouble = items.some((item) => TROUBLE.has(item.state));
  const state = items.find((item) => !TROUBLE.has(item.state))?.state ?? "in_trouble";
  return (
    <>
      <chakra.span
        position="absolute"
        insetX="0"
        top="1px"
        fontSize="10.5px"
        lineHeight="12px"
        fontWeight="600"
        textAlign="center"
        fontVariantNumeric="tabular-nums"
        color={trouble ? "pimenton" : "ink"}
      >
        {items.length}
      </chakra.span>
      <Box
        position="absolute"
        bottom="1px"
        insetX="3px"
        borderRadius="1px"
        bg={STATES[trouble ? "in_trouble" : state]?.colour}
        style={{ height: 3 + Math.round((items.length / most) * 14) }}
      />
    </>
  );
}

function Mark({ item, left }: { item: TickItem; left: number }) {
  if (TROUBLE.has(item.state)) return item.stack === 0 ? <Notch left={left} /> : null;
  if (item.stack > 2) return null;
  return (
    <Box
      position="absolute"
      top={`${24 - item.stack * 8}px`}
      w="6px"
      h="7px"
      borderRadius="1px"
      bg={STATES[item.state]?.colour}
      style={{ left: left + 9 }}
    />
  );
}

function Notch({ left }: { left: number }) {
  return (
    <chakra.svg
      width="24px"
      height="18px"
      viewBox="0 0 24 18"
      aria-hidden="true"
      position="absolute"
      top="0"
      color="pimenton"
      style={{ left }}
    >
      <path d="M3 0h18l-9 15z" fill="currentColor" />
      <path d="M12 2.5v6" stroke="var(--m-colors-paper)" strokeWidth="1.8" />
      <circle cx="12" cy="11" r="1.1" fill="var(--m-colors-paper)" />
    </chakra.svg>
  );
}
