import { Box, Flex } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { assignTask, completeTask, talkQueries } from "@/data/talk";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { formatInstant, formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

/** Who was asked to see to the post, until when; and asking somebody. */
export function Tasks({ id, talk }: { id: number; talk: Schemas["TalkOut"] }) {
  const { brand, me, may } = useBrandContext();
  const queries = useQueryClient();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [open, setOpen] = useState(false);
  const [user, setUser] = useState("");
  const [words, setWords] = useState("");
  const [wall, setWall] = useState("");
  const keep = async (now: Schemas["TalkOut"]) => {
    queries.setQueryData(talkQueries.post(brand.slug, id).queryKey, now);
    await changed("assignment");
  };

  async function done(task: number) {
    try {
      await keep(await completeTask(brand.slug, id, task));
      toast("Seen to.");
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  function ask() {
    void form.send(async () => {
      const body = { user: Number(user), summary: words, due_wall_time: wall };
      await keep(await assignTask(brand.slug, id, body));
      setOpen(false);
      setWords("");
      setWall("");
    });
  }
  return (
    <Box as="section" aria-label="Asked of">
      {talk.tasks.map((task) => (
        <Flex key={task.id} gap="10px" py="6px" align="flex-start" data-testid="task">
          <Box flex="1">
            <b>{task.name}</b> is asked to {task.summary || "see to it"}
            <Box fontSize="12px" color={task.late ? "pimenton" : "faded"}>
              {task.due_at ? `until ${formatInstant(task.due_at, brand.zone, me.clock24)}` : "no hurry"}
              {task.late && ", which has passed"} · by {task.assigned_by}
            </Box>
          </Box>
          {(task.mine || may("edit_others")) && (
            <Button aria-label={`Done: ${task.summary || "see to it"}`} onClick={() => void done(task.id)}>
              Done
            </Button>
          )}
        </Flex>
      ))}
      {may("write") && !open && <Button onClick={() => setOpen(true)}>Ask somebody to see to it</Button>}
      {open && (
        <Box borderWidth="1px" borderColor="rule" p="10px 12px">
          <Select label="Whom" value={user} error={form.at("/user")} onChange={(e) => setUser(e.currentTarget.value)}>
            <option value="">choose</option>
            {talk.people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
          <Field
            label="To do what"
            placeholder="find a wider picture"
            maxLength={200}
            value={words}
            error={form.at("/summary")}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          <Field
            label={`Until (${formatZone(brand.zone)}; empty: no hurry)`}
            type="datetime-local"
            value={wall}
            error={form.at("/due_wall_time")}
            onChange={(e) => setWall(e.currentTarget.value)}
          />
          <Flex gap="8px">
            <Button onClick={() => setOpen(false)}>Not now</Button>
            <Button kind="main" disabled={form.busy || !user} onClick={ask}>
              Ask
            </Button>
          </Flex>
        </Box>
      )}
    </Box>
  );
}
