import type { CalendarSearch } from "@/app/address";

/** What narrows the calendar, by the names it has in the address. */
export const NARROWS = ["sets", "profiles", "networks", "states", "labels", "campaigns", "people", "words"] as const;
export type Narrowed = Partial<Record<(typeof NARROWS)[number], string>>;
export type View = NonNullable<CalendarSearch["view"]>;

export function narrowOf(search: Narrowed): Narrowed {
  return Object.fromEntries(NARROWS.map((name) => [name, search[name]]).filter(([, value]) => value));
}

export const cleared = Object.fromEntries(NARROWS.map((name) => [name, undefined])) as Narrowed;
export const isNarrowed = (search: Narrowed) => NARROWS.some((name) => search[name]);

/** A listed value with one entry put in or taken out; undefined when nothing is left. */
export function toggled(listed: string | undefined, entry: string): string | undefined {
  const all = (listed ?? "").split(",").filter(Boolean);
  const next = all.includes(entry) ? all.filter((one) => one !== entry) : [...all, entry];
  return next.length ? next.join(",") : undefined;
}
