import { FILTER_KEYS, type Filters } from "@/features/calendar/filters";

/** What an address says after its question mark, before it is looked at. */
export type Search = Record<string, unknown>;

export const optional = (value: unknown) => (typeof value === "string" && value ? value : undefined);
/** Text, also where it looks like a number: one id alone is read from the address as one. */
export const listed = (value: unknown) => optional(typeof value === "number" ? String(value) : value);
export const number = (value: unknown) =>
  Number.isInteger(Number(value)) && Number(value) > 0 ? Number(value) : undefined;
export const flag = (value: unknown) => (value === true || value === "true" ? true : undefined);
const whether = (value: unknown) =>
  value === true || value === "true" ? true : value === false || value === "false" ? false : undefined;

export function narrowedSearch(s: Search): Filters {
  return Object.fromEntries(FILTER_KEYS.map((name) => [name, listed(s[name])]).filter(([, value]) => value));
}

const VIEWS = ["lanes", "month", "week", "list"] as const;
const PANELS = ["advice", "labels", "campaigns", "almanac", "addresses", "plan"] as const;
const SORTS = ["time", "profile", "state"] as const;
export type CalendarSearch = Filters & {
  from?: string;
  show?: number;
  open?: number;
  view?: (typeof VIEWS)[number];
  panel?: (typeof PANELS)[number];
  sort?: (typeof SORTS)[number];
  by?: "set";
  lay?: string;
};

export function calendarSearch(s: Search): CalendarSearch {
  return {
    from: optional(s.from),
    show: number(s.show),
    open: number(s.open),
    view: VIEWS.find((one) => one === s.view),
    panel: PANELS.find((one) => one === s.panel),
    sort: SORTS.find((one) => one === s.sort),
    by: s.by === "set" ? "set" : undefined,
    lay: listed(s.lay),
    ...narrowedSearch(s),
  };
}

const SHELVES = ["media", "snippets", "tag-sets", "link-tags", "bin"] as const;
const KINDS = ["picture", "animation", "video"] as const;
type LibrarySearch = {
  shelf?: (typeof SHELVES)[number];
  words?: string;
  folder?: number;
  label?: string;
  kind?: (typeof KINDS)[number];
  used?: boolean;
  binned?: boolean;
  list?: boolean;
  fill?: boolean;
};

export function librarySearch(s: Search): LibrarySearch {
  return {
    shelf: SHELVES.find((one) => one === s.shelf),
    words: listed(s.words),
    folder: Number(s.folder) === 0 && s.folder !== undefined ? 0 : number(s.folder),
    label: listed(s.label),
    kind: KINDS.find((one) => one === s.kind),
    used: whether(s.used),
    binned: flag(s.binned),
    list: flag(s.list),
    fill: flag(s.fill),
  };
}
