import type { Cell, Row, Settings } from "./queries";

export type Draft = Required<Settings> & {
  conditions: Required<NonNullable<Settings["conditions"]>>;
  shape: Required<NonNullable<Settings["shape"]>>;
};

/** A kept relay's settings, or those that are usual for its source; both come whole from the server. */
export function draftOf(cell: Cell | null, row: Row): Draft {
  const { conditions, messages, shape, link_tags, how, minutes, asks, goes_from, goes_until, per_day, ceiling } =
    (cell ?? row.usual) as Draft;
  return { conditions, messages, shape, link_tags, how, minutes, asks, goes_from, goes_until, per_day, ceiling };
}

export const listOf = (said: string) =>
  said
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);
