import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useToday } from "@/app/shell/useStrip";
import { useChanged } from "@/data/changes";
import { scheduleBatch } from "@/data/plans";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useUndo } from "../queries";
import { IntervalFields, ProfileFields } from "./BatchFields";
import { BatchLine } from "./BatchLine";
import { type Plan, useBatch } from "./useBatch";

type Props = { posts: number[]; ghosts: (rows: Schemas["BatchRowOut"][]) => void; close: () => void };
/** Many drafts laid out from a day onward: every date in sight, and on the lanes, before anything is fixed. */
export function BatchPanel({ posts, ghosts, close }: Props) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const form = useForm();
  const today = useToday();
  const [plan, setPlan] = useState<Plan>({
    how: "slots", first: today, at: "15:00", unit: "days", step: 1, weekdays: [], nth: null, jitter: 0, profiles: [],
  }); // biome-ignore format: one plan
  const set = (part: Partial<Plan>) => setPlan((p) => ({ ...p, ...part }));
  const { rows, seed, move, leave, problem, busy } = useBatch(brand.slug, posts, plan);
  const going = rows.filter((r) => r.wall_time && !r.left);
  const homeless = rows.length ? posts.filter((id) => !rows.some((r) => r.post === id)).length : 0;
  const stopped = going.filter((r) => r.notes.some((n) => n.kind === "stops"));
  const ready = going.filter((r) => !r.notes.some((n) => n.kind === "stops"));
  useEffect(() => {
    ghosts(ready);
  });
  useEffect(() => () => ghosts([]), [ghosts]);

  const fix = () =>
    form.send(async () => {
      const body = {
        seed,
        rows: ready.map((r) => ({
          post: r.post,
          asset: r.asset,
          profile: r.profile,
          wall_time: r.wall_time ?? "",
          zone: r.zone,
          jitter: r.jitter,
        })),
      };
      const done = await scheduleBatch(brand.slug, body);
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      const entry = done.undo;
      toast(`Planned ${done.planned.length} ${done.planned.length === 1 ? "delivery" : "deliveries"}.`, {
        undo: entry ? () => undo(entry) : undefined,
      });
      await changed("delivery");
      close();
    });
  const wrong = problem instanceof Problem ? problem : null;
  return (
    <Box
      as="section"
      aria-label="Lay out"
      borderWidth="2px"
      borderColor="ink"
      bg="card"
      mx={{ base: "12px", md: "24px" }}
      mb="10px"
      display="grid"
      gridTemplateColumns={{ base: "1fr", lg: "340px minmax(0, 1fr)" }}
    >
      <Box p="12px 16px" borderRightWidth={{ base: "0", lg: "1px" }} borderColor="rule">
        <Flex justify="space-between" align="center">
          <Box as="h2" fontSize="20px">
            Lay out {posts.length} {posts.length === 1 ? "draft" : "drafts"}
          </Box>
          <Button kind="quiet" aria-label="Close" onClick={close}>
            ✕
          </Button>
        </Flex>
        <Flex gap="14px" my="6px">
          <Tick kind="radio" name="how" checked={plan.how === "slots"} onChange={() => set({ how: "slots" })}>
            In the next free slots
          </Tick>
          <Tick kind="radio" name="how" checked={plan.how === "run"} onChange={() => set({ how: "run" })}>
            As a run
          </Tick>
        </Flex>
        <Flex gap="8px">
          <Field
            label="From"
            type="date"
            value={plan.first}
            onChange={(e) => set({ first: e.currentTarget.value })}
            error={wrong?.at("/first")}
          />
          {plan.how === "run" && (
            <Field
              label="At"
              type="time"
              value={plan.at}
              onChange={(e) => set({ at: e.currentTarget.value })}
              error={wrong?.at("/at")}
            />
          )}
          <Field
            label="Vary by (min)"
            type="number"
            min={0}
            max={180}
            value={plan.jitter}
            onChange={(e) => set({ jitter: Math.max(0, Math.min(180, Number(e.currentTarget.value) || 0)) })}
          />
        </Flex>
        {plan.how === "run" && <IntervalFields plan={plan} set={set} />}
        <ProfileFields plan={plan} set={set} error={wrong?.at("/profiles")} />
        {homeless > 0 && (
          <Box color="maizeInk" fontSize="12px">
            {homeless} {homeless === 1 ? "draft has" : "drafts have"} no profile yet: choose some above.
          </Box>
        )}
        {wrong && !wrong.at("/profiles") && !wrong.at("/at") && (
          <Box role="alert" color="pimenton">
            {wrong.message}
          </Box>
        )}
        {form.problem && (
          <Box role="alert" color="pimenton">
            {form.problem.message}
          </Box>
        )}
        <Flex gap="8px" mt="8px" align="center">
          <Button kind="main" onClick={fix} disabled={!ready.length || form.busy || busy}>
            Fix {ready.length} {ready.length === 1 ? "date" : "dates"}
          </Button>
          {stopped.length > 0 && (
            <Box color="pimenton" fontSize="12px">
              {stopped.length} can't go
            </Box>
          )}
        </Flex>
      </Box>
      <Box maxH="250px" overflowY="auto" p="8px 16px" tabIndex={0} role="group" aria-label="Every date">
        {rows.length === 0 && <Box color="faded">The dates stand here before anything is fixed.</Box>}
        {rows.map((row) => (
          <BatchLine key={row.key} row={row} move={move} leave={leave} />
        ))}
      </Box>
    </Box>
  );
}
