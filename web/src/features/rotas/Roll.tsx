import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { type KeyboardEvent, useRef, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { moveFocus } from "@/features/calendar/board/roving";
import { inkOf } from "@/features/calendar/Labels";
import { StateShape } from "@/ui/StateShape";
import { formatClock, formatDay, formatWeekday, weekdayOf } from "@/ui/times";
import type { RotaPage, Turn, Upcoming } from "./queries";
import { TurnHead } from "./TurnHead";
import "./roll.css";

type Spot = { profile: number; at: string };
export type RollActions = {
  put: (one: Upcoming, turn: number | null) => void;
  free: (one: Upcoming) => void;
  swap: (one: Spot, other: Spot) => void;
};
type Props = { page: RotaPage; coming: Upcoming[]; deeds: RollActions };

/** The coming weeks as a roll: a row for each turn, a column for each slot, a mark where a turn goes. */
export function Roll({ page, coming, deeds }: Props) {
  const { me, may } = useBrandContext();
  const grid = useRef<HTMLDivElement>(null);
  const [first, setFirst] = useState<Upcoming | null>(null);
  const rows: (Turn | null)[] = [...page.turns, null];
  const columns = `320px repeat(${coming.length}, 30px)`;
  function chooseForSwap(one: Upcoming) {
    if (one.delivery) return;
    if (!first) setFirst(one);
    else {
      setFirst(null);
      if (first.at !== one.at) deeds.swap(spotOf(first), spotOf(one));
    }
  }
  function pressed(event: KeyboardEvent<HTMLDivElement>) {
    if (event.ctrlKey || event.metaKey || event.altKey || !grid.current) return;
    const cell = document.activeElement?.closest<HTMLElement>("[data-column]");
    const one = cell ? coming[Number(cell.dataset.column)] : undefined;
    if (event.key === "s" && one && may("publish")) {
      event.preventDefault();
      chooseForSwap(one);
    } else if (event.key === "Escape" && first) setFirst(null);
    else if (moveFocus(grid.current, event.key)) event.preventDefault();
  }
  return (
    <Box>
      <Box overflowX="auto" borderWidth="1px" borderColor="rule" borderRadius="3px" bg="card">
        <Box
          ref={grid}
          role="grid"
          aria-label="A row for each turn, a column for each coming slot"
          onKeyDown={pressed}
          data-columns={coming.length}
          w="max-content"
          minW="100%"
        >
          <Box role="row" display="grid" gridTemplateColumns={columns}>
            <Box role="columnheader" className="roll-head" color="faded" fontSize="11px">
              {page.turns.length} {page.turns.length === 1 ? "turn" : "turns"}
            </Box>
            {coming.map((one, n) => (
              <Box
                key={one.at}
                role="columnheader"
                className="roll-day"
                data-week={n === 0 || weekdayOf(one.date) === 0 ? "" : undefined}
                title={`${formatWeekday(weekdayOf(one.date))} ${formatDay(one.date)}, ${formatClock(one.time, me.clock24)}${one.empty_reason ? `: ${one.empty_reason}` : ""}`}
              >
                <span aria-hidden>{formatWeekday(weekdayOf(one.date)).slice(0, 1)}</span>
                <b>{Number(one.date.slice(8))}</b>
                <span>{n === 0 || one.date.endsWith("-01") ? formatDay(one.date).split(" ")[1] : ""}</span>
              </Box>
            ))}
          </Box>
          {rows.map((turn, row) => (
            <Box key={turn?.id ?? 0} role="row" display="grid" gridTemplateColumns={columns} className="roll-row">
              <Box role="rowheader" className="roll-head">
                {turn ? (
                  <TurnHead page={page} turn={turn} n={row} />
                ) : (
                  <Box color="faded" py="4px">
                    nothing goes
                  </Box>
                )}
              </Box>
              {coming.map((one, column) => (
                <Cell
                  key={one.at}
                  {...{ one, turn, row, column, deeds }}
                  chosen={first?.at === one.at}
                  choose={() => chooseForSwap(one)}
                />
              ))}
            </Box>
          ))}
        </Box>
      </Box>
      <Flex gap="18px" mt="8px" color="faded" fontSize="12px" flexWrap="wrap" aria-live="polite">
        <Flex as="span" gap="6px" align="center">
          <i className="roll-mark" /> the rota’s choice
        </Flex>
        <Flex as="span" gap="6px" align="center">
          <i className="roll-mark" data-fixed="" /> fixed by hand; press it to give it back
        </Flex>
        <Flex as="span" gap="6px" align="center">
          <StateShape state="planned" size={11} /> a post was made of it, here in its state
        </Flex>
        {may("publish") && (
          <span>
            {first
              ? `Press s on the slot to swap ${formatDay(first.date)} with, or escape.`
              : "Press a cell to put that turn there. s on two slots swaps them."}
          </span>
        )}
      </Flex>
    </Box>
  );
}

const spotOf = (one: Upcoming): Spot => ({ profile: one.profile, at: one.at });

type CellProps = {
  one: Upcoming;
  turn: Turn | null;
  row: number;
  column: number;
  deeds: RollActions;
  chosen: boolean;
  choose: () => void;
};

function Cell({ one, turn, row, column, deeds, chosen, choose }: CellProps) {
  const { brand, me, may } = useBrandContext();
  const here = one.turn === (turn?.id ?? null);
  const when = `${formatWeekday(weekdayOf(one.date))} ${formatDay(one.date)}, ${formatClock(one.time, me.clock24)}`;
  const what = turn ? turn.wordings[0]?.headline || "no words yet" : "nothing";
  const place = { role: "gridcell", "data-row": row, "data-column": column, className: "roll-cell" } as const;
  if (one.delivery && here)
    return (
      <Box {...place} data-week={weekdayOf(one.date) === 0 ? "" : undefined}>
        <Link
          to="/$brand/calendar"
          params={{ brand: brand.slug }}
          search={{ open: one.delivery, from: one.date }}
          data-stop=""
          aria-label={`${when}: ${what}, ${one.state.replaceAll("_", " ")}. To the calendar`}
        >
          <StateShape state={one.state} size={13} />
        </Link>
      </Box>
    );
  const told = here
    ? `${when}: ${what}${one.empty_reason ? `, ${one.empty_reason}` : ""}${one.fixed ? ", fixed by hand" : ""}`
    : `${when}: put ${what} there`;
  const mine = here && (turn || one.fixed);
  return (
    <Box {...place} data-week={weekdayOf(one.date) === 0 ? "" : undefined} data-chosen={chosen ? "" : undefined}>
      <chakra.button
        type="button"
        data-stop=""
        tabIndex={here && column === 0 ? 0 : -1}
        aria-label={told}
        aria-pressed={here}
        title={one.last_error && here ? one.last_error : told}
        disabled={!may("publish") || one.delivery !== null}
        onClick={(e) => {
          if (e.shiftKey) choose();
          else if (here && one.fixed) deeds.free(one);
          else deeds.put(one, turn?.id ?? null);
        }}
      >
        {mine ? (
          <i
            className="roll-mark"
            data-fixed={one.fixed ? "" : undefined}
            data-trouble={one.last_error ? "" : undefined}
            style={{ "--ink": inkOf(one.ink) } as React.CSSProperties}
          />
        ) : here ? (
          <span aria-hidden>–</span>
        ) : null}
      </chakra.button>
    </Box>
  );
}
