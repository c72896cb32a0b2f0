import { Box, Flex } from "@chakra-ui/react";
import { Fragment, useMemo, useRef } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { moveFocus } from "@/features/calendar/board/roving";
import { useNetworks } from "@/features/profiles/queries";
import { NetworkTile } from "@/ui/NetworkTile";
import type { Cell, Board as Data, Row } from "./queries";
import "./board.css";

export type Spot = { row: Row; target: Profile };
type Props = { board: Data; rows: Row[]; targets: Profile[]; open: Spot | null; press: (spot: Spot) => void };

export const rowKey = (row: { key: string; event?: string; event_name?: string }) =>
  `${row.key}|${row.event ?? ""}|${row.event_name ?? ""}`;
const GROUPS = { profile: "Our own profiles", feed: "Feeds", catalogue: "Catalogue", label: "Labels" } as const;
/** The band that a row stands under, and its whole name wherever it stands alone. */
export const groupOf = (row: Row) => (row.group ? `${GROUPS[row.kind]}: ${row.group}` : GROUPS[row.kind]);
export const fullName = (row: Row) => (row.group ? `${row.group}: ${row.name}` : row.name);

/** What appears on the left is carried to the top: a row for each source, a column for each profile. */
export function Board({ board, rows, targets, open, press }: Props) {
  const grid = useRef<HTMLDivElement>(null);
  const networks = useNetworks();
  const columns = `230px repeat(${targets.length}, 92px)`;
  const cells = useMemo(
    () => new Map(board.cells.map((cell) => [`${rowKey(cell.source)}>${cell.target}`, cell])),
    [board.cells],
  );
  const ringed = useMemo(() => board.cycles.map((ring) => new Set(ring)), [board.cycles]);
  const doubled = useMemo(
    () => new Map(board.duplicates.map((d) => [`${d.source}>${d.target}`, d.summary])),
    [board.duplicates],
  );
  let group = "";
  return (
    <Box className="relay-board">
      <Box
        ref={grid}
        role="grid"
        aria-label="Relay board: a row for each source, a column for each profile"
        data-columns={targets.length}
        w="max-content"
        minW="100%"
        onKeyDown={(event) => {
          if (event.ctrlKey || event.metaKey || event.altKey || !grid.current) return;
          if (moveFocus(grid.current, event.key)) event.preventDefault();
        }}
      >
        <Box role="row" display="grid" gridTemplateColumns={columns} position="sticky" top="0" zIndex="3">
          <Box role="columnheader" className="relay-head relay-corner">
            <span>from, and to</span>
          </Box>
          {targets.map((target) => {
            const network = networks.get(target.network);
            return (
              <Box key={target.id} role="columnheader" className="relay-head">
                {network && <NetworkTile letters={network.letters} shape={network.shape} size={24} />}
                <Broken name={target.display_name || target.handle} />
              </Box>
            );
          })}
        </Box>
        {rows.map((row, n) => {
          const title = groupOf(row);
          const first = title !== group;
          group = title;
          return (
            <Fragment key={rowKey(row)}>
              {first && (
                <Box role="row" className="relay-band">
                  <Box role="rowheader" className="relay-group">
                    {title}
                  </Box>
                </Box>
              )}
              <Box role="row" display="grid" gridTemplateColumns={columns} className="relay-row">
                <Box role="rowheader" className="relay-source">
                  <RowTile row={row} />
                  <span>
                    <b>{row.name}</b>
                    {row.last_error && (
                      <Box as="span" display="block" color="pimenton" fontSize="11px">
                        {row.last_error}
                      </Box>
                    )}
                  </span>
                </Box>
                {targets.map((target, column) => {
                  const cell = cells.get(`${rowKey(row)}>${target.id}`);
                  const from = row.kind === "profile" ? Number(row.key.slice(1)) : 0;
                  return (
                    <CellBox
                      key={target.id}
                      {...{ row, target, column, cell, press }}
                      first={targets[0]?.id ?? 0}
                      at={n}
                      self={from === target.id}
                      ring={Boolean(cell && ringed.some((ring) => ring.has(from) && ring.has(target.id)))}
                      double={doubled.get(`${row.event ? rowKey(row) : row.key}>${target.id}`) ?? ""}
                      open={open !== null && rowKey(open.row) === rowKey(row) && open.target.id === target.id}
                    />
                  );
                })}
              </Box>
            </Fragment>
          );
        })}
      </Box>
    </Box>
  );
}

/** A name in a narrow column: it breaks after its dots and slashes before it breaks anywhere. */
function Broken({ name }: { name: string }) {
  const parts = name.split(/(?<=[./_])/);
  return (
    <span>
      {parts.map((part, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the parts of one name don't move
        <Fragment key={n}>
          {n > 0 && <wbr />}
          {part}
        </Fragment>
      ))}
    </span>
  );
}

function RowTile({ row }: { row: Row }) {
  const network = useNetworks().get(row.network);
  return network ? <NetworkTile letters={network.letters} shape={network.shape} size={24} /> : null;
}

type CellProps = {
  row: Row;
  target: Profile;
  at: number;
  column: number;
  cell: Cell | undefined;
  self: boolean;
  ring: boolean;
  double: string;
  open: boolean;
  press: (spot: Spot) => void;
  first: number;
};

function CellBox({ row, target, at, column, cell, self, ring, double, open, press, first }: CellProps) {
  const { may } = useBrandContext();
  const place = { role: "gridcell", "data-row": at, "data-column": column, className: "relay-cell" } as const;
  if (self)
    return (
      <Box {...place} data-self="">
        <button
          type="button"
          data-stop=""
          tabIndex={-1}
          aria-disabled
          aria-label={`${fullName(row)} to itself: never`}
        />
      </Box>
    );
  const path = `${fullName(row)} to ${target.display_name || target.handle}`;
  const state = !cell ? "nothing yet" : cell.paused_reason ? "paused itself" : cell.active ? "on" : "off";
  const below = !cell
    ? ""
    : ring
      ? "would ring"
      : cell.paused_reason
        ? "paused"
        : cell.active
          ? `${cell.fires}${double && " ²"}`
          : "off";
  const told = [
    `${path}: ${state}.`,
    cell?.summary,
    cell?.active && !cell.paused_reason && `${cell.fires} in 7 days.`,
    ring && "It closes a ring: nothing ever returns to where it has been.",
    cell && double,
  ].filter(Boolean);
  return (
    <Box {...place} data-ring={ring ? "" : undefined} data-open={open ? "" : undefined}>
      <button
        type="button"
        data-stop=""
        tabIndex={
          at === 0 && column === (row.kind === "profile" && Number(row.key.slice(1)) === first ? 1 : 0) ? 0 : -1
        }
        data-empty={cell ? undefined : ""}
        aria-label={`${below} ${told.join(" ")}`.trim()}
        title={told.join(" ")}
        aria-disabled={!cell && !may("publish") ? true : undefined}
        onClick={() => (cell || may("publish")) && press({ row, target })}
      >
        {cell ? (
          <>
            <i
              className="relay-token"
              data-does={cell.confirmation}
              data-off={cell.active ? undefined : ""}
              data-paused={cell.paused_reason ? "" : undefined}
            />
            <span>{below}</span>
          </>
        ) : (
          <span aria-hidden>+</span>
        )}
      </button>
    </Box>
  );
}

export function BoardKey() {
  return (
    <Flex gap="18px" color="faded" fontSize="12px" flexWrap="wrap" align="center">
      {(
        [
          ["goes", "goes by itself"],
          ["asks", "asks first"],
          ["tells", "only tells"],
        ] as const
      ).map(([does, words]) => (
        <Flex as="span" key={does} gap="6px" align="center">
          <i className="relay-token" data-does={does} /> {words}
        </Flex>
      ))}
      <Flex as="span" gap="6px" align="center">
        <i className="relay-token" data-off="" /> switched off
      </Flex>
      <Flex as="span" gap="6px" align="center">
        <i className="relay-token" data-paused="" /> paused itself
      </Flex>
      <span>figures: carried in 7 days · ² comes by more than one path, and is carried once</span>
    </Flex>
  );
}
