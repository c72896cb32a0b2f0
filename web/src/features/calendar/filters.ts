import type { CalendarSearch } from "@/app/address";

/** What narrows the calendar, by the names it has in the address. */
export const FILTER_KEYS = [
  "sets",
  "profiles",
  "networks",
  "states",
  "labels",
  "campaigns",
  "people",
  "words",
] as const;
export type Filters = Partial<Record<(typeof FILTER_KEYS)[number], string>>;
export type View = NonNullable<CalendarSearch["view"]>;

export function filtersOf(search: Filters): Filters {
  return Object.fromEntries(FILTER_KEYS.map((name) => [name, search[name]]).filter(([, value]) => value));
}

export const NO_FILTERS = Object.fromEntries(FILTER_KEYS.map((name) => [name, undefined])) as Filters;
export const isFiltered = (search: Filters) => FILTER_KEYS.some((name) => search[name]);

/** A listed value with one entry put in or taken out; undefined when nothing is left. */
export function toggleFilter(listed: string | undefined, entry: string): string | undefined {
  const all = (listed ?? "").split(",").filter(Boolean);
  const next = all.includes(entry) ? all.filter((one) => one !== entry) : [...all, entry];
  return next.length ? next.join(",") : undefined;
}
