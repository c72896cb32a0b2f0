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
import { type KeyboardEvent, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { CalendarWindow, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks } from "@/features/profiles/queries";
import { formatClock, formatDay } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { Peek } from "../Peek";
import { useLabels } from "../queries";
import { AskSiblings } from "./AskSiblings";
import { BulkBar } from "./BulkBar";
import {
  type Board,
  BoardContext,
  type Draft,
  type Held,
  HeldContext,
  type Marked,
  MarkedContext,
  refusal,
  type Spot,
  type Tools,
  ToolsContext,
} from "./board";
import type { Steps } from "./carry";
import { moveFocus } from "./roving";
import { useDrag } from "./useDrag";
import { useDrop } from "./useDrop";
import { useGlow } from "./useGlow";
import { useRest } from "./useRest";
import { useSelection } from "./useSelection";

type Props = {
  window: CalendarWindow;
  show: number | undefined;
  open: (id: number) => void;
  steps: Steps;
  children: ReactNode;
};

/** What makes any view a board: dragging, carrying by keyboard, choosing many, peeking, and what comes of it. */
export function BoardFrame({ window, show, open, steps, children }: Props) {
  const { brand, me, may } = useBrandContext();
  const navigate = useNavigate();
  const page = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const [peeked, setPeeked] = useState<HTMLElement | null>(null);
  const changed = useGlow(window.tickets, show, window.gathered !== null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const lanes = useMemo(() => new Map(window.lanes.map((lane) => [lane.profile, lane])), [window.lanes]);
  const { selected, toggle, clear, keep } = useSelection(window.tickets);
  const { setDown, toTray, putDraft, ask, answer } = useDrop(window, selected, clear);
  const { carried, lift, keyDown } = useDrag(
    window,
    steps,
    (c) => setDown(c.ticket, { day: c.day, time: c.time, profile: c.profile }, false),
    toTray,
  );

  // The focus stays with a card that was lifted, wherever it is set down or put back, until it goes elsewhere.
  const last = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a window read again draws the card in another cell
  useEffect(() => {
    if (carried) last.current = carried.ticket.id;
    if (last.current && (carried || document.activeElement === document.body)) focusCard(page.current, last.current);
  }, [carried, window.tickets]);

  function dropped({ over, activatorEvent }: DragEndEvent) {
    const what = held;
    setHeld(null);
    const spot = over?.data.current as Spot | undefined;
    if (!what || !spot) return;
    const why = refusal(what, spot, window, lanes);
    if (why)
      return toast(why === "has passed" ? "That day has passed." : `${why}. It stays where it was.`, { wrong: true });
    const snap = altDown || (activatorEvent as MouseEvent).altKey;
    if ("draft" in what) void putDraft(what.draft, spot);
    else if (spot.tray) toTray(what.ticket);
    else setDown(what.ticket, spot, snap);
  }

  const ticketAt = (element: Element | null): Ticket | undefined => {
    const id = Number((element as HTMLElement | null)?.dataset?.ticket);
    return id ? window.tickets.find((t) => t.id === id) : undefined;
  };
  function pressed(event: KeyboardEvent<HTMLDivElement>) {
    if (keyDown(event) || !page.current) return;
    const ticket = ticketAt(document.activeElement);
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === " " && ticket) {
      event.preventDefault();
      if (ticket.moves && may("publish")) lift(ticket);
      else toast("This one can't be moved.", { wrong: true });
    } else if (event.key.toLowerCase() === "x" && ticket) {
      event.preventDefault();
      toggle(ticket.id, event.shiftKey);
    } else if (event.key === "i" && ticket) {
      event.preventDefault();
      setPeeked((now) => (now ? null : (document.activeElement as HTMLElement)));
    } else if (event.key === "Escape" && peeked) setPeeked(null);
    else if (event.key === "Escape" && selected.size) clear();
    else if (moveFocus(page.current, event.key)) {
      event.preventDefault();
      if (peeked) setPeeked(ticketAt(document.activeElement) ? (document.activeElement as HTMLElement) : null);
    }
  }

  const begin = useCallback(
    (date: string, profile?: number, time?: string) =>
      void navigate({
        to: "/$brand/bench/$post",
        params: { brand: brand.slug, post: "new" },
        search: { profile, date, time },
      }),
    [navigate, brand.slug],
  );
  const networks = useNetworks();
  const named = useLabels(brand.slug).data;
  const labels = useMemo(() => new Map(named?.map((label) => [label.id, label])), [named]);
  const tools = useMemo(() => ({ open, toggle, begin, labels, networks }), [open, toggle, begin, labels, networks]);
  const marked = useMemo(() => ({ selected, changed }), [selected, changed]);
  const board = useMemo(() => ({ window, lanes, held, carried }), [window, lanes, held, carried]);
  const over = useRest(setPeeked);
  return (
    <Contexts board={board} tools={tools} marked={marked}>
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        accessibility={QUIET}
        onDragStart={(e: DragStartEvent) => {
          setPeeked(null);
          setHeld(e.active.data.current as { ticket: Ticket } | { draft: Draft });
        }}
        onDragEnd={dropped}
        onDragCancel={() => setHeld(null)}
      >
        <Box
          ref={page}
          onKeyDown={pressed}
          {...over}
          display="flex"
          flexDirection="column"
          flex="1"
          minH="0"
          minW="0"
          data-columns={steps === "weeks" ? 7 : window.days.length}
        >
          {children}
        </Box>
        {peeked?.isConnected && !held && !carried && <Peek at={peeked} ticket={ticketAt(peeked)} />}
        {selected.size > 0 && <BulkBar tickets={keep} clear={clear} />}
        {ask && <AskSiblings ask={ask} answer={answer} />}
        <Box aria-live="assertive" position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
          {carried &&
            `${formatDay(window.days[carried.day]?.date ?? "")}, ${formatClock(carried.time, me.clock24)}, ${lanes.get(carried.profile)?.handle}. Enter sets it down, delete puts it in the tray, escape puts it back.`}
        </Box>
      </DndContext>
    </Contexts>
  );
}

type ContextProps = { board: Board; tools: Tools; marked: Marked; children: ReactNode };

/** What lies on the board takes of it what it needs, and is drawn anew for no more than that. */
function Contexts({ board, tools, marked, children }: ContextProps) {
  return (
    <BoardContext value={board}>
      <ToolsContext value={tools}>
        <MarkedContext value={marked}>
          <HeldContext value={board.held}>{children}</HeldContext>
        </MarkedContext>
      </ToolsContext>
    </BoardContext>
  );
}

/** The card, wherever it lies; where it is only counted, what counts it. */
function focusCard(page: HTMLElement | null, id: number): void {
  const card = page?.querySelector<HTMLElement>(`[data-ticket="${id}"]`);
  (card ?? page?.querySelector<HTMLElement>(`[data-cards~="${id}"]`))?.focus();
}

/** What is set down is told by a notice, and what is carried by the page itself: not by the library, which knows ids only. */
const silent = () => undefined;
export const QUIET = {
  announcements: { onDragStart: silent, onDragOver: silent, onDragEnd: silent, onDragCancel: silent },
  screenReaderInstructions: { draggable: "" },
};

/** Whether alt is held just now: cards then snap to slots. */
let altDown = false;
for (const kind of ["keydown", "keyup", "pointermove"] as const)
  window.addEventListener(kind, (event) => {
    altDown = (event as globalThis.KeyboardEvent | PointerEvent).altKey;
  });
