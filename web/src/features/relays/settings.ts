import type { Cell, Row, Settings } from "./queries";

export type Draft = Required<Settings> & {
  conditions: Required<NonNullable<Settings["conditions"]>>;
  adaptation: Required<NonNullable<Settings["adaptation"]>>;
};

/** A kept relay's settings, or those that are usual for its source; both come whole from the server. */
export function draftOf(cell: Cell | null, row: Row): Draft {
  const { conditions, messages, adaptation, link_tags, timing, delay_minutes, confirmation, ...limits } = (cell ??
    row.defaults) as Draft;
  const { hours_from, hours_until, daily_limit, hourly_limit } = limits;
  const when = { timing, delay_minutes, confirmation, hours_from, hours_until, daily_limit, hourly_limit };
  return { conditions, messages, adaptation, link_tags, ...when };
}

export const listOf = (values: string) =>
  values
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);
