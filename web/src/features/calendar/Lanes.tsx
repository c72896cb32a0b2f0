import { Box } from "@chakra-ui/react";
import {
  DndContext,
  type DragEndEvent,
  type DragStartEvent,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { useNavigate } from "@tanstack/react-router";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useNetworks } from "@/features/profiles/queries";
import { NetworkTile } from "@/ui/NetworkTile";
import { say } from "@/ui/notices";
import { clockWords, dayWords } from "@/ui/times";
import { DayHead } from "./DayHead";
import { LaneCell } from "./LaneCell";
import { useDeliveryDeeds } from "./queries";
import { moveFocus } from "./roving";
import { type Carried, useCarry } from "./useCarry";
import { useChanged } from "./useChanged";

type Props = { window: CalendarWindow; show: number | undefined; open: (id: number) => void };

export function Lanes({ window, show, open }: Props) {
  const { brand, me, may } = useHere();
  const navigate = useNavigate();
  const networks = useNetworks();
  const { move } = useDeliveryDeeds(brand.slug);
  const [dragged, setDragged] = useState<Ticket | null>(null);
  const grid = useRef<HTMLDivElement>(null);
  const changed = useChanged(window.tickets, show);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const cells = useMemo(
    () => Map.groupBy(window.tickets, (ticket) => `${ticket.profile}:${ticket.day}`),
    [window.tickets],
  );

  function setDown({ ticket, day, time }: Carried) {
    const date = window.days[day]?.date;
    const lane = window.lanes.find((l) => l.profile === ticket.profile);
    if (!date) return;
    const words = `Moved ${lane?.handle} to ${dayWords(date)}, ${clockWords(time, me.clock24)}.`;
    move.mutate({
      id: ticket.id,
      revision: ticket.revision,
      wall: `${date}T${time}`,
      words,
      shown: { from: window.days[0]?.date, day, time },
    });
  }
  const { carried, lift, keyDown } = useCarry(window, setDown);

  // The focus stays with a card that was lifted, wherever it is set down or put back, until it goes elsewhere.
  const held = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a window read again draws the card in another cell
  useEffect(() => {
    if (carried) held.current = carried.ticket.id;
    if (held.current && (carried || document.activeElement === document.body))
      grid.current?.querySelector<HTMLElement>(`[data-ticket="${held.current}"]`)?.focus();
  }, [carried, window.tickets]);

  function dropped({ over }: DragEndEvent) {
    const ticket = dragged;
    setDragged(null);
    const target = over?.data.current as { profile: number; day: number } | undefined;
    if (!ticket || !target) return;
    if (target.profile !== ticket.profile)
      say("A delivery stays with its profile: move it along its own row.", { wrong: true });
    else if (target.day !== ticket.day) setDown({ ticket, day: target.day, time: ticket.time });
  }

  function pressed(event: KeyboardEvent<HTMLDivElement>) {
    if (keyDown(event) || !grid.current) return;
    const at = document.activeElement as HTMLElement | null;
    const id = Number(at?.dataset.ticket);
    if (event.key === " " && id) {
      event.preventDefault();
      const ticket = window.tickets.find((t) => t.id === id);
      if (ticket?.moves && may("publish")) lift(ticket);
      else say("This one can't be moved.", { wrong: true });
    } else if (moveFocus(grid.current, event.key)) event.preventDefault();
  }

  const begin = (profile: number, date: string) =>
    navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: "new" }, search: { profile, date } });

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={(e: DragStartEvent) => setDragged((e.active.data.current as { ticket: Ticket }).ticket)}
      onDragEnd={dropped}
      onDragCancel={() => setDragged(null)}
    >
      <Box mx={{ base: "12px", md: "24px" }} overflowX="auto">
        <Box
          ref={grid}
          role="grid"
          aria-label="Calendar: a row for each profile, a column for each day"
          onKeyDown={pressed}
          minW="1060px"
          borderWidth="1px"
          borderColor="rule"
          borderRadius="3px"
          bg="card"
        >
          <Box role="row" display="grid" gridTemplateColumns="200px repeat(14, minmax(0, 1fr))">
            <Box role="columnheader" fontSize="11px" color="faded" p="4px 10px" alignSelf="end">
              {window.lanes.length} {window.lanes.length === 1 ? "profile" : "profiles"}
            </Box>
            {window.days.map((day) => (
              <DayHead key={day.date} day={day} role="columnheader" />
            ))}
          </Box>
          {window.lanes.map((lane, row) => {
            const network = networks.get(lane.network);
            return (
              <Box
                role="row"
                key={lane.profile}
                display="grid"
                gridTemplateColumns="200px repeat(14, minmax(0, 1fr))"
                borderTopWidth="1px"
                borderColor="rule"
                minH="57px"
              >
                <Box role="rowheader" display="flex" alignItems="center" gap="10px" px="10px" py="4px" minW="0">
                  {network && <NetworkTile letters={network.letters} shape={network.shape} />}
                  <Box minW="0">
                    <Box fontWeight="600" lineHeight="17px" overflowWrap="anywhere">
                      {lane.called || lane.handle}
                    </Box>
                    <Box color={laneColour(lane)} fontSize="11.5px" lineHeight="14px">
                      {laneWords(lane, network?.name)}
                    </Box>
                  </Box>
                </Box>
                {window.days.map((day, column) => (
                  <LaneCell
                    key={day.date}
                    {...{ lane, day, column, row, carried, dragged, changed, begin, open }}
                    tickets={cells.get(`${lane.profile}:${column}`) ?? []}
                  />
                ))}
              </Box>
            );
          })}
        </Box>
      </Box>
      <Box aria-live="assertive" position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
        {carried &&
          `${dayWords(window.days[carried.day]?.date ?? "")}, ${clockWords(carried.time, me.clock24)}. Enter sets it down, escape puts it back.`}
      </Box>
    </DndContext>
  );
}

const CALM = new Set(["connected", "by_hand", "disconnected"]);

function laneColour(lane: CalendarWindow["lanes"][number]): string {
  if (lane.paused) return "maizeInk";
  return CALM.has(lane.state) ? "faded" : "pimenton";
}

/** The network, or what is out of the ordinary. */
function laneWords(lane: CalendarWindow["lanes"][number], network: string | undefined): string {
  if (lane.paused) return "paused";
  if (lane.state === "connected") return network ?? "";
  return lane.state === "by_hand" ? `${network ?? ""} · by hand` : lane.state.replaceAll("_", " ");
}
