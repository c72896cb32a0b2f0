import { addDays, formatDay, monthWords, weekdayOf } from "@/ui/times";
import type { View } from "./filters";

/** Which days a view shows, what it is called, and where its arrows lead. */
export type Span = { first: string | undefined; days: number; back: string; on: string; unit: string; month: string };

const LIST_DAYS = 30;

function monthsOn(date: string, by: number): string {
  const at = new Date(`${date.slice(0, 7)}-01T00:00Z`);
  at.setUTCMonth(at.getUTCMonth() + by);
  return at.toISOString().slice(0, 10);
}

export function spanOf(view: View, from: string | undefined, today: string): Span {
  const at = from && /^\d{4}-\d\d-\d\d$/.test(from) ? from : today;
  if (view === "month") {
    const one = `${at.slice(0, 7)}-01`;
    const first = addDays(one, -weekdayOf(one));
    const last = addDays(monthsOn(at, 1), -1);
    const days = Math.ceil((Date.parse(`${last}T00:00Z`) - Date.parse(`${first}T00:00Z`)) / 86_400_000 / 7 + 1 / 7) * 7;
    return { first, days, back: monthsOn(at, -1), on: monthsOn(at, 1), unit: "month", month: at.slice(0, 7) };
  }
  if (view === "week") {
    const first = addDays(at, -weekdayOf(at));
    return { first, days: 7, back: addDays(first, -7), on: addDays(first, 7), unit: "week", month: "" };
  }
  const days = view === "list" ? LIST_DAYS : 14;
  // Without a day in the address the server says which day it is: it may be another by now.
  return { first: from, days, back: addDays(at, -7), on: addDays(at, 7), unit: "week", month: "" };
}

export function titleOf(view: View, days: { date: string }[], month: string): string {
  const first = days[0]?.date;
  const last = days.at(-1)?.date;
  if (!first || !last) return "";
  return view === "month" ? monthWords(`${month}-01`) : `${formatDay(first)} – ${formatDay(last)}`;
}
