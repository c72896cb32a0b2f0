import { Box, chakra } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape } from "@/ui/StateShape";
import { formatClock } from "@/ui/times";
import { useBoard, useTools } from "../board/board";
import { Card } from "../board/Card";
import { dayPiece } from "./pieces";
import { usePieces, useWant } from "./usePieces";
import "./heap.css";

export type HeapOf = Schemas["HeapOut"];
/** So many cards of an opened heap lie on the calendar; the others are in the list. */
const LAID_OUT = 12;
const NONE: Ticket[] = [];

export const heapKey = (heap: HeapOf) => `${heap.day}:${heap.hour ?? ""}:${heap.network}`;

/** The heaps of a window by day, and the cards in each that were read so far. */
export function useHeaps() {
  const { window, lanes } = useBoard();
  const heaps = window.gathered?.heaps ?? [];
  const isHourly = heaps.some((heap) => heap.hour !== null);
  const keyOf = (ticket: Ticket) =>
    `${ticket.day}:${isHourly ? Number(ticket.time.slice(0, 2)) : ""}:${lanes.get(ticket.profile)?.network ?? ""}`;
  const [opened, setOpened] = useState("");
  return {
    byDay: Map.groupBy(heaps, (heap) => heap.day),
    cards: Map.groupBy(window.gathered ? window.tickets : NONE, keyOf),
    opened,
    toggle: (key: string) => setOpened((now) => (now === key ? "" : key)),
  };
}

type Props = { heap: HeapOf; day: string; heaps: ReturnType<typeof useHeaps> };

/** Many cards of one network by their count; pressed, they lie open. */
export function Heap({ heap, day, heaps }: Props) {
  const { me } = useBrandContext();
  const { carried } = useBoard();
  const network = useTools().networks.get(heap.network);
  const key = heapKey(heap);
  const isOpen = heaps.opened === key;
  const cards = heaps.cards.get(key) ?? NONE;
  const when =
    heap.hour === null ? day : `${day} from ${formatClock(`${String(heap.hour).padStart(2, "0")}:00`, me.clock24)}`;
  const trouble = heap.trouble ? `, ${heap.trouble} in trouble` : "";
  return (
    <Box
      position={isOpen ? "relative" : undefined}
      zIndex={isOpen ? 6 : undefined}
      onKeyDown={(event) => {
        if (event.key !== "Escape" || !isOpen || carried) return;
        event.stopPropagation();
        event.currentTarget.querySelector<HTMLElement>(".heap")?.focus();
        heaps.toggle(key);
      }}
    >
      <button
        type="button"
        className="heap"
        data-stop=""
        data-cards={cards.map((card) => card.id).join(" ")}
        data-trouble={heap.trouble ? "" : undefined}
        aria-expanded={isOpen}
        title={`${heap.count} on ${network?.name ?? heap.network}${trouble}`}
        onClick={() => heaps.toggle(key)}
      >
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={17} />}
        <b aria-hidden>{heap.count}</b>
        {heap.hour === null && (
          <span className="name" aria-hidden>
            {network?.name}
          </span>
        )}
        {heap.trouble > 0 && (
          <span aria-hidden>
            <StateShape state="in_trouble" size={11} />
          </span>
        )}
        <span className="unseen">{`${heap.count} on ${network?.name ?? heap.network}, ${when}${trouble}`}</span>
      </button>
      {isOpen && <OpenHeap heap={heap} cards={cards} day={day} />}
    </Box>
  );
}

/** Turns of rotas that no post has been made of yet, by their count. */
export function HeapToCome({ count }: { count: number }) {
  return (
    <span className="heap-coming" title={`${count} to come from rotas`}>
      {count} to come
    </span>
  );
}

function OpenHeap({ heap, cards, day }: { heap: HeapOf; cards: Ticket[]; day: string }) {
  const { window, lanes, carried } = useBoard();
  const network = useTools().networks.get(heap.network);
  const { narrow, stateOf, again } = usePieces();
  const piece = dayPiece(window, narrow, heap.day, heap.network);
  useWant("heap", [piece]);
  const state = stateOf(piece);
  const here = cards.filter((card) => card.id !== carried?.ticket.id);
  const shown = here.slice(0, LAID_OUT);
  return (
    <Box
      role="group"
      aria-label={`On ${network?.name ?? heap.network}, ${day}`}
      aria-busy={state === "coming"}
      position="absolute"
      top="100%"
      left="0"
      w="230px"
      p="4px"
      display="grid"
      gridTemplateColumns="minmax(0, 1fr)"
      gap="2px"
      bg="paper"
      css={{ "--under": "var(--m-colors-paper)" }}
      borderWidth="1px"
      borderColor="ink"
      boxShadow="4px 4px 0 color-mix(in srgb, var(--m-colors-ink) 14%, transparent)"
    >
      {state === "coming" && <Box className="ticket" data-awaited="" />}
      {state === "failed" && (
        <Box role="alert" color="pimenton" fontSize="12px" px="4px">
          These could not be read.{" "}
          <chakra.button
            type="button"
            textDecoration="underline"
            minH="24px"
            cursor="pointer"
            onClick={() => again(piece)}
          >
            Try again
          </chakra.button>
        </Box>
      )}
      {shown.map((ticket) => {
        const handle = lanes.get(ticket.profile)?.handle ?? "";
        return (
          <Card
            key={ticket.id}
            ticket={ticket}
            handle={handle}
            day={day}
            lone={false}
            who={ticket.headline || handle}
          />
        );
      })}
      {here.length > shown.length && (
        <Box asChild color="anil" fontSize="12px" px="4px" minH="24px" data-stop="">
          <Link
            from="/$brand/calendar"
            search={(s) => ({ ...s, view: "list", from: window.days[heap.day]?.date, networks: heap.network })}
          >
            All {here.length} in the list
          </Link>
        </Box>
      )}
    </Box>
  );
}
