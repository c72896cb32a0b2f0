import { memo, startTransition, useEffect, useMemo, useState } from "react";
import type { Schemas, Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import type { Piece } from "@/data/calendar";
import { NetworkTile } from "@/ui/NetworkTile";
import { formatClock, formatDay, formatWeekday } from "@/ui/times";
import { type Carried, useTools } from "./board/board";
import { Card } from "./board/Card";
import { SpotBox } from "./board/SpotBox";
import type { PieceState } from "./pieces/usePieces";
import { type Upcoming, UpcomingCard } from "./UpcomingCard";
import "./lanes.css";

type Props = {
  lane: Schemas["LaneOut"];
  row: number;
  columns: string;
  tickets: Ticket[];
  ghosts: Schemas["BatchRowOut"][];
  coming: Upcoming[];
  carried: Carried | null;
  days: Schemas["DayOut"][];
  marks: Schemas["LaneMarksOut"] | undefined;
  /** Where its cards are only counted: how many there are, and with which piece they come. */
  counts: Schemas["LaneCountOut"] | undefined;
  run: Piece | undefined;
  state: PieceState;
  again: (piece: Piece) => void;
  /** Whether it comes while one scrolls. */
  hurried: boolean;
};
/** What it is drawn anew for. */
const KEPT = [
  "lane", "row", "columns", "tickets", "ghosts", "coming", "carried", "days", "marks", "counts", "run", "state", "again",
] as const; // biome-ignore format: one list

/** One profile's row of days. One that comes into sight while one scrolls is there at once with its outlines, and filled between two
 * frames. */
export const LaneRow = memo(
  function LaneRow(props: Props) {
    const { lane, row, columns, marks, run, state, again } = props;
    const network = useTools().networks.get(lane.network);
    const [filled, setFilled] = useState(!props.hurried);
    useEffect(() => startTransition(() => setFilled(true)), []);
    return (
      // biome-ignore lint/a11y/useSemanticElements lint/a11y/useFocusableInteractive: a row of a grid that isn't a table; its cells' stops take the focus
      <div
        role="row"
        aria-rowindex={row + 2}
        aria-busy={state === "coming" || undefined}
        className="lane"
        style={{ gridTemplateColumns: columns }}
      >
        {/* biome-ignore lint/a11y/useSemanticElements lint/a11y/useFocusableInteractive: as the row */}
        <div role="rowheader" className="lane-head">
          {network && <NetworkTile letters={network.letters} shape={network.shape} />}
          <div>
            <div className="lane-name">{lane.display_name || lane.handle}</div>
            <div
              className="lane-words"
              data-paused={lane.paused ? "" : undefined}
              data-loud={!lane.paused && !CALM.has(lane.state) ? "" : undefined}
            >
              {laneWords(lane, network?.name)}
            </div>
            {state === "failed" && run && (
              <button type="button" className="lane-again" onClick={() => again(run)}>
                Not read: try again
              </button>
            )}
            {marks && marks.crowds.length > 0 && (
              <div className="lane-crowded" title={marks.crowds.map((c) => c.summary).join("\n")}>
                crowded {marks.crowds.length}×
              </div>
            )}
          </div>
        </div>
        {filled ? <Cells {...props} /> : <CellOutlines {...props} />}
      </div>
    );
  },
  (one, other) => KEPT.every((name) => one[name] === other[name]),
);

function Cells({ lane, days, row, tickets, ghosts, coming, carried, marks, counts, state }: Props) {
  const byDay = useMemo(() => Map.groupBy(tickets, (t) => t.day), [tickets]);
  const crowded = useMemo(() => new Set(marks?.crowds.flatMap((c) => c.ids)), [marks]);
  const first = days[0]?.date ?? "";
  const laid = Map.groupBy(ghosts, (g) => (g.wall_time ? dayOf(g.wall_time, first) : -1));
  const faint = Map.groupBy(coming, (one) => one.date);
  return days.map((day, column) => (
    <LaneCell
      key={day.date}
      {...{ lane, day, column, row, crowded }}
      gap={marks?.gaps.find((g) => g.first <= column && column <= g.last)?.summary ?? ""}
      tickets={byDay.get(column) ?? NONE}
      awaited={state === "there" ? 0 : (counts?.days[column] ?? 0)}
      ghosts={laid.get(column) ?? NO_GHOSTS}
      coming={faint.get(day.date) ?? NO_COMING}
      carried={carried && (carried.day === column || carried.ticket.day === column) ? carried : null}
    />
  ));
}

/** The cells with as many outlines as they have cards: as high as they will be. */
function CellOutlines({ days, tickets, counts, state }: Props) {
  const byDay = Map.groupBy(tickets, (t) => t.day);
  return days.map((day, column) => {
    const count = byDay.get(column)?.length || (state === "there" ? 0 : (counts?.days[column] ?? 0));
    return (
      <div key={day.date} className="lane-cell" data-weekend={day.weekday > 4 ? "" : undefined}>
        <Outlines count={count} />
      </div>
    );
  });
}

function Outlines({ count }: { count: number }) {
  return Array.from({ length: count }, (_, n) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: they are alike
    <div key={n} className="ticket" data-awaited="" />
  ));
}

const NONE: Ticket[] = [];
const NO_GHOSTS: Schemas["BatchRowOut"][] = [];
const NO_COMING: Upcoming[] = [];
const MS = 86_400_000;
const dayOf = (wall: string, first: string) =>
  Math.round((Date.parse(`${wall.slice(0, 10)}T00:00Z`) - Date.parse(`${first}T00:00Z`)) / MS);

type CellProps = {
  lane: Schemas["LaneOut"];
  day: Schemas["DayOut"];
  column: number;
  row: number;
  tickets: Ticket[];
  /** How many cards there are whose content isn't there yet. */
  awaited: number;
  ghosts: Schemas["BatchRowOut"][];
  coming: Upcoming[];
  crowded: ReadonlySet<number>;
  gap: string;
  carried: Carried | null;
};

/** One profile's day: its cards, or an empty spot to begin a post on. */
const LaneCell = memo(function LaneCell({
  lane,
  day,
  column,
  row,
  tickets,
  awaited,
  ghosts,
  coming,
  crowded,
  gap,
  carried,
}: CellProps) {
  const { me, may } = useBrandContext();
  const { begin } = useTools();
  const here = tickets.filter((t) => t.id !== carried?.ticket.id);
  const guest = carried && carried.profile === lane.profile && carried.day === column ? carried : null;
  const words = `${formatWeekday(day.weekday)} ${formatDay(day.date)}`;
  const outlines = tickets.length ? 0 : awaited;
  const count = here.length + (guest ? 1 : 0) + ghosts.length + coming.length + outlines;
  const hatched = gap && !day.past && count === 0;
  return (
    <SpotBox
      spot={{ profile: lane.profile, day: column }}
      id={`${lane.profile}:${column}`}
      role="gridcell"
      data-row={row}
      data-column={column}
      data-gap={hatched ? "" : undefined}
      title={hatched ? gap : undefined}
      className="lane-cell"
      data-weekend={day.weekday > 4 ? "" : undefined}
    >
      <Outlines count={outlines} />
      {here.map((ticket) => (
        <Card
          key={ticket.id}
          ticket={ticket}
          handle={lane.handle}
          day={words}
          lone={count < 2}
          crowds={crowded.has(ticket.id)}
        />
      ))}
      {guest && (
        <Card ticket={guest.ticket} handle={lane.handle} day={words} lone={count < 2} lifted time={guest.time} />
      )}
      {ghosts.map((ghost) => (
        <div key={`${ghost.item}`} className="ticket" data-ghost="" title={ghost.headline}>
          <span className="line">◌ {formatClock(ghost.wall_time?.slice(11, 16) ?? "", me.clock24)}</span>
          <span className="words" style={{ display: "block" }}>
            {ghost.headline}
          </span>
        </div>
      ))}
      {coming.map((one) => (
        <UpcomingCard key={`${one.rota}${one.at}`} one={one} day={words} lone />
      ))}
      {count === 0 &&
        (may("write") && !day.past ? (
          <button
            type="button"
            className="lane-new"
            data-stop=""
            aria-label={`New post for ${lane.handle} on ${words}${hatched ? `. ${gap}` : ""}`}
            onClick={() => begin(day.date, lane.profile)}
          >
            <span aria-hidden>+</span>
          </button>
        ) : (
          <div data-stop="" tabIndex={-1} className="lane-nothing">
            <span className="unseen">{words}, nothing</span>
          </div>
        ))}
    </SpotBox>
  );
});

const CALM = new Set(["connected", "by_hand", "disconnected"]);

/** The network, or what is out of the ordinary. */
function laneWords(lane: Schemas["LaneOut"], network: string | undefined): string {
  if (lane.paused) return "paused";
  if (lane.state === "connected") return network ?? "";
  return lane.state === "by_hand" ? `${network ?? ""} · by hand` : lane.state.replaceAll("_", " ");
}
