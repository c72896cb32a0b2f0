import type { CalendarWindow } from "@/api/client";
import type { Piece } from "@/data/calendar";

/** So many lanes, and about so many cards, are read together. */
const LANES = 24;
const CARDS = 400;

/** The lanes in the order in which they are shown, in runs that are read together; each run's profiles. */
export function runsOf(profiles: number[], counts: ReadonlyMap<number, number>): number[][] {
  const runs: number[][] = [];
  let cards = 0;
  for (const profile of profiles) {
    const count = counts.get(profile) ?? 0;
    const run = runs.at(-1);
    if (run && run.length < LANES && cards + count <= CARDS) {
      run.push(profile);
      cards += count;
    } else {
      runs.push([profile]);
      cards = count;
    }
  }
  return runs;
}

/** The cards of some profiles, with the marks of their lanes. */
export function lanesPiece(window: CalendarWindow, narrow: Piece["narrow"], profiles: number[]): Piece {
  const origin = window.days[0]?.date ?? "";
  return {
    origin,
    first: origin,
    days: window.days.length,
    narrow: { ...narrow, profiles: profiles.join() },
    marks: true,
  };
}

/** The cards of one day; of one network where it is named. */
export function dayPiece(window: CalendarWindow, narrow: Piece["narrow"], day: number, network?: string): Piece {
  const origin = window.days[0]?.date ?? "";
  const first = window.days[day]?.date ?? origin;
  return { origin, first, days: 1, narrow: network ? { ...narrow, networks: network } : narrow, marks: false };
}
