import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { planPost, postQueries } from "@/data/posts";
import { useUndo } from "@/features/calendar/queries";
import { formatWallTime } from "@/ui/times";
import { toast } from "@/ui/toasts";
import type { useBench } from "./useBench";

export type When = { kind: "at" | "next_slot" | "now" | "kept"; date: string; time: string; spread: Spread };

/** Minutes between one profile and the next, minutes that each may vary by, and what both were drawn from. */
export type Spread = { least: number; most: number; jitter: number; seed: number; order: number[] };
export const NO_SPREAD: Spread = { least: 0, most: 0, jitter: 0, seed: 0, order: [] };

/** When, as the server wants it. */
export function whenIn(when: When): Schemas["WhenIn"] {
  const { least, most, jitter, seed, order } = when.spread;
  return {
    kind: when.kind,
    wall_time: when.kind === "at" ? `${when.date}T${when.time}` : "",
    stagger: most ? { least, most } : null,
    order,
    jitter,
    seed,
  };
}

/** Planning from the Bench: keep what was typed, then plan; what could not go is told. */
export function usePlan(
  bench: ReturnType<typeof useBench>,
  date: string | undefined,
  time: string | undefined,
  done: (post: number, date: string, delivery: number) => void,
) {
  const { brand, me } = useBrandContext();
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const [when, setWhen] = useState<When>({
    kind: date ? "at" : "next_slot",
    date: date ?? "",
    time: time ?? "12:00",
    spread: NO_SPREAD,
  });
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);

  async function go() {
    if (busy) return;
    setBusy(true);
    setProblem(null);
    try {
      const body: Schemas["PlanIn"] = { when: whenIn(when) };
      let planned: Schemas["PlanOut"] | undefined;
      // What is planned is what was typed when it was pressed: nothing is saved between saving it and planning it.
      await bench.after(async (post) => {
        planned = await planPost(brand.slug, post.id, post.revision, body);
        return planned.post;
      });
      if (!planned) throw new Problem(422, "There is nothing to plan yet. Write a text or add a picture.");
      const plan = planned;
      const entry = plan.undo;
      tell(plan);
      if (entry !== null) toast(words(plan, me.clock24), { undo: () => undo(entry) });
      await changed("post", "delivery");
      const first = plan.post.deliveries.find((d) => plan.planned.includes(d.id));
      if (first?.wall_time) done(plan.post.id, first.wall_time.slice(0, 10), first.id);
    } catch (error) {
      if (error instanceof Problem) setProblem(error);
      else throw error;
    } finally {
      setBusy(false);
    }
  }
  return { go, when, setWhen, problem, busy };
}

function tell(plan: Schemas["PlanOut"]): void {
  for (const left of plan.left) toast(`Not planned: ${left.reason}`, { wrong: true });
}

function words(plan: Schemas["PlanOut"], clock24: boolean): string {
  const planned = plan.post.deliveries.filter((d) => plan.planned.includes(d.id));
  const held = planned.some((d) => d.state === "held") ? " It is held until it is signed off." : "";
  const first = planned[0]?.wall_time;
  const count = planned.length === 1 ? "" : ` (${planned.length} deliveries)`;
  return `Planned for ${first ? formatWallTime(first, clock24) : "now"}${count}.${held}`;
}

/** The time each profile would really go out at, when times are spread: what is shown is what will be planned. */
export function useTimes(brand: string, post: number | null, revision: number | undefined, when: When) {
  const { most, jitter } = when.spread;
  const ready = when.kind !== "kept" && (when.kind !== "at" || Boolean(when.date && when.time));
  return useQuery({
    ...postQueries.times(brand, post, revision ?? 0, whenIn(when)),
    enabled: post !== null && ready && (most > 0 || jitter > 0),
  });
}
