import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { planQueries } from "@/data/plans";

export type Plan = {
  how: "slots" | "run";
  first: string;
  at: string;
  unit: "hours" | "days" | "weeks" | "months";
  step: number;
  weekdays: number[];
  nth: number | null;
  jitter: number;
  profiles: number[];
};
export type Row = Schemas["BatchRowOut"] & { key: string; left: boolean };

/** What laying out would make: looked at again at every change, with single rows moved or left out by hand. */
export function useBatch(brand: string, posts: number[], plan: Plan) {
  const [moved, setMoved] = useState<Record<string, string>>({});
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [seed] = useState(() => Math.floor(Math.random() * 2 ** 31));
  const body: Schemas["BatchIn"] = {
    posts,
    assets: [],
    profiles: plan.profiles,
    timing: plan.how,
    first: plan.first,
    at: plan.at,
    interval: plan.how === "run" ? { unit: plan.unit, step: plan.step, weekdays: plan.weekdays, nth: plan.nth } : null,
    jitter: plan.jitter,
    seed,
    moved: Object.entries(moved).map(([key, wall]) => {
      const [post = 0, profile = 0] = key.split(":").map(Number);
      return { post, asset: null, profile, wall_time: wall };
    }),
  };
  const looked = useQuery({ ...planQueries.batch(brand, body), enabled: posts.length > 0 && plan.first !== "" });
  const rows = useMemo(
    () =>
      (looked.data?.rows ?? []).map((row): Row => {
        const key = `${row.post}:${row.profile}`;
        return { ...row, key, left: left.has(key) };
      }),
    [looked.data, left],
  );
  // Half a time is none yet.
  const move = (key: string, wall: string) => wall && setMoved((all) => ({ ...all, [key]: wall }));
  const leave = (key: string) =>
    setLeft((all) => {
      const next = new Set(all);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return { rows, seed, move, leave, problem: looked.error, busy: looked.isFetching };
}
