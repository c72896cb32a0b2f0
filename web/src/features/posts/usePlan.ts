import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, ifMatch, Problem, type Schemas } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useUndo } from "@/features/calendar/queries";
import { say } from "@/ui/notices";
import { wallWords } from "@/ui/times";
import type { useBench } from "./useBench";

export type When = { kind: "at" | "next_slot" | "now"; date: string; time: string };

/** Planning from the Bench: keep what was typed, then plan; what could not go is told. */
export function usePlan(
  bench: ReturnType<typeof useBench>,
  date: string | undefined,
  done: (date: string, delivery: number) => void,
) {
  const { brand, me } = useHere();
  const queries = useQueryClient();
  const undo = useUndo(brand.slug);
  const [when, setWhen] = useState<When>({ kind: date ? "at" : "next_slot", date: date ?? "", time: "12:00" });
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);

  async function go() {
    if (busy) return;
    setBusy(true);
    setProblem(null);
    try {
      const post = await bench.write();
      if (!post) throw new Problem(422, "There is nothing to plan yet. Write a text or add a picture.");
      const body: Schemas["PlanIn"] = {
        when: { kind: when.kind, wall: when.kind === "at" ? `${when.date}T${when.time}` : "" },
      };
      const path = { brand: brand.slug, id: post.id };
      const plan = await got(
        api.POST("/api/brands/{brand}/posts/{id}/plan", { params: { path }, headers: ifMatch(post.revision), body }),
      );
      bench.planned(plan.post);
      const entry = plan.undo;
      tell(plan);
      if (entry !== null) say(words(plan, me.clock24), { undo: () => undo(entry) });
      await Promise.all(
        ["post", "calendar", "strip"].map((key) => queries.invalidateQueries({ queryKey: [key, brand.slug] })),
      );
      const first = plan.post.deliveries.find((d) => plan.planned.includes(d.id));
      if (first?.wall) done(first.wall.slice(0, 10), first.id);
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
  for (const left of plan.left) say(`Not planned: ${left.words}`, { wrong: true });
}

function words(plan: Schemas["PlanOut"], clock24: boolean): string {
  const planned = plan.post.deliveries.filter((d) => plan.planned.includes(d.id));
  const held = planned.some((d) => d.state === "held") ? " It is held until it is signed off." : "";
  const first = planned[0]?.wall;
  const count = planned.length === 1 ? "" : ` (${planned.length} deliveries)`;
  return `Planned for ${first ? wallWords(first, clock24) : "now"}${count}.${held}`;
}
