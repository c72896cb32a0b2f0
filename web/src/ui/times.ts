/** How times are written. Which instant a wall time means is the server's to say. */

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** “15:00” as it is, or “3 pm” for those who read twelve hours. */
export function formatClock(time: string, clock24: boolean): string {
  if (clock24) return time;
  const [hour = 0, minute = 0] = time.split(":").map(Number);
  const half = hour < 12 ? "am" : "pm";
  return `${hour % 12 || 12}${minute ? `:${String(minute).padStart(2, "0")}` : ""} ${half}`;
}

export function formatWeekday(weekday: number): string {
  return DAYS[weekday] ?? "";
}

/** “24 Nov” for a date like 2026-11-24. */
export function formatDay(date: string): string {
  const [, month = 1, day = 1] = date.split("-").map(Number);
  return `${day} ${MONTHS[month - 1]}`;
}

/** A wall time like 2026-11-25T12:00 as “Wed 25 Nov, 12:00”. */
export function formatWallTime(wall: string, clock24: boolean): string {
  const [date = "", time = ""] = wall.split("T");
  const weekday = (new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7;
  return `${formatWeekday(weekday)} ${formatDay(date)}, ${formatClock(time.slice(0, 5), clock24)}`;
}

export function addDays(date: string, days: number): string {
  const at = new Date(`${date}T00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}

/** The place a zone is named for: “Europe/Madrid” is “Madrid”. */
export function formatZoneCity(zone: string): string {
  return zone.split("/").pop()?.replaceAll("_", " ") ?? zone;
}

/** A zone's name as people say it: “Europe/Madrid” is “Madrid time”. */
export function formatZone(zone: string): string {
  return `${formatZoneCity(zone)} time`;
}

/** A wall time in both ways of writing it, so that nobody takes 3 for 15: “Wed 25 Nov, 15:00 · 3 pm”. */
export function formatBothClocks(wall: string): string {
  return `${formatWallTime(wall, true)} · ${formatClock(wall.split("T")[1]?.slice(0, 5) ?? "", false)}`;
}

/** The wall time of an instant in a zone, like 2026-11-25T12:00: for what the server gives as an instant only. */
export function wallTimeIn(instant: string, zone: string): string {
  const parts = new Intl.DateTimeFormat("en-CA", {
    timeZone: zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  }).formatToParts(new Date(instant));
  const part = (type: string) => parts.find((p) => p.type === type)?.value ?? "";
  return `${part("year")}-${part("month")}-${part("day")}T${part("hour")}:${part("minute")}`;
}

export function formatInstant(instant: string, zone: string, clock24: boolean): string {
  return formatWallTime(wallTimeIn(instant, zone), clock24);
}

/** Today's date on a zone's calendar. */
export function todayIn(zone: string): string {
  return new Intl.DateTimeFormat("en-CA", { timeZone: zone, year: "numeric", month: "2-digit", day: "2-digit" }).format(
    new Date(),
  );
}

/** 0 is Monday. */
export function weekdayOf(date: string): number {
  return (new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7;
}

const LONG = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/** “November 2026” for any date in it. */
export function monthWords(date: string): string {
  return `${LONG[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
}
