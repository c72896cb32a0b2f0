import { Box, Flex, Portal } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useLayoutEffect, useRef, useState } from "react";
import type { Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { calendarQueries } from "@/data/calendar";
import { useNetworks } from "@/features/profiles/queries";
import { Kbd } from "@/ui/Kbd";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatWallTime } from "@/ui/times";
import { InkMark } from "./Labels";

const W = 360;
const GAP = 8;

/** What a card says without opening it: beside the card, never over it. */
export function Peek({ at, ticket }: { at: HTMLElement; ticket: Ticket | undefined }) {
  const { brand } = useBrandContext();
  const box = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number }>();
  const found = useQuery(calendarQueries.peek(brand.slug, ticket?.post));
  // biome-ignore lint/correctness/useExhaustiveDependencies: placed anew when what it says has come
  useLayoutEffect(() => {
    const card = at.getBoundingClientRect();
    const high = box.current?.offsetHeight ?? 0;
    const right = card.right + GAP + W < window.innerWidth;
    const left = right ? card.right + GAP : Math.max(GAP, card.left - GAP - W);
    setPlace({ left, top: Math.max(GAP, Math.min(card.top, window.innerHeight - high - GAP)) });
  }, [at, found.data]);
  if (!ticket) return null;
  return (
    <Portal>
      <Box
        ref={box}
        role="status"
        data-testid="peek"
        position="fixed"
        style={{ left: place?.left ?? 0, top: place?.top ?? 0, visibility: place ? "visible" : "hidden" }}
        w={`${W}px`}
        maxH="70vh"
        overflow="hidden"
        bg="card"
        color="ink"
        borderWidth="1px"
        borderColor="ink"
        boxShadow="6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)"
        zIndex="30"
        p="12px 14px"
        fontSize="13px"
        lineHeight="18px"
        pointerEvents="none"
      >
        {found.data ? <Said peek={found.data} ticket={ticket} /> : <Box color="faded">{ticket.headline}</Box>}
        <Box color="faded" fontSize="11px" mt="8px">
          <Kbd>enter</Kbd> opens · <Kbd>space</Kbd> lifts · <Kbd>x</Kbd> chooses · <Kbd>i</Kbd> peeks
        </Box>
      </Box>
    </Portal>
  );
}

function Said({ peek, ticket }: { peek: Schemas["PeekOut"]; ticket: Ticket }) {
  const mine = peek.wordings.find((w) => w.deliveries.some((d) => d.id === ticket.id)) ?? peek.wordings[0];
  const others = peek.wordings.filter((w) => w !== mine);
  return (
    <Box display="grid" gap="8px">
      {peek.title && <b>{peek.title}</b>}
      {mine && <Wording wording={mine} peek={peek} whole />}
      {others.slice(0, 3).map((w) => (
        <Box key={w.deliveries.map((d) => d.id).join()} borderTopWidth="1px" borderColor="rule" pt="6px">
          <Wording wording={w} peek={peek} />
        </Box>
      ))}
      {others.length > 3 && <Box color="faded">and {others.length - 3} more wordings</Box>}
      <Flex gap="10px" flexWrap="wrap" color="faded" fontSize="12px" borderTopWidth="1px" borderColor="rule" pt="6px">
        {peek.author && <span>by {peek.author}</span>}
        <span>{stateWords(peek.state).replaceAll("_", " ")}</span>
        {peek.campaign && <span>campaign {peek.campaign}</span>}
        {peek.labels.map((label) => (
          <Flex as="span" key={label.id} align="center" gap="4px" color="ink">
            <InkMark ink={label.ink} /> {label.name}
          </Flex>
        ))}
      </Flex>
    </Box>
  );
}

function Wording({
  wording,
  peek,
  whole,
}: {
  wording: Schemas["PeekWording"];
  peek: Schemas["PeekOut"];
  whole?: boolean;
}) {
  const { brand, me } = useBrandContext();
  const networks = useNetworks();
  const assets = new Map(peek.assets.map((asset) => [asset.id, asset]));
  return (
    <Box>
      <Box lineClamp={whole ? 6 : 2} whiteSpace="pre-wrap" overflowWrap="anywhere">
        {wording.text || <i>No words.</i>}
      </Box>
      {whole && wording.media.length > 0 && (
        <Flex gap="4px" mt="6px">
          {wording.media.slice(0, 5).map((id) => (
            <Box asChild key={id} h="54px" maxW="80px" objectFit="cover" borderRadius="2px">
              <img src={`/media/${brand.slug}/${id}/thumb`} alt={assets.get(id)?.alt ?? ""} />
            </Box>
          ))}
        </Flex>
      )}
      {wording.link && (
        <Box color="anil" fontSize="12px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
          {wording.link}
        </Box>
      )}
      {wording.deliveries.slice(0, whole ? 6 : 3).map((d) => {
        const network = networks.get(d.network);
        return (
          <Box key={d.id} mt="4px">
            <Flex align="center" gap="6px">
              <StateShape state={d.state} size={11} />
              {network && <NetworkTile letters={network.letters} shape={network.shape} size={16} />}
              <Box as="span" flex="1" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                {d.handle}
              </Box>
              <Box as="span" fontVariantNumeric="tabular-nums">
                {d.wall_time ? formatWallTime(d.wall_time, me.clock24) : stateWords(d.state)}
              </Box>
            </Flex>
            {whole && d.first && (
              <Box color={d.stops ? "pimenton" : "maizeInk"} fontSize="12px" pl="17px">
                {d.first}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
