import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Ticket } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { callOffDeliveries, fetchPost, markPosts } from "@/data/posts";
import { useSignoffActions } from "@/features/signoff/usePostSignoff";
import { Button } from "@/ui/Button";
import { ChoiceMenu } from "@/ui/ChoiceMenu";
import { addDays } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { markChoices } from "../Labels";
import { told, useCampaigns, useLabels, useMoves, useUndo } from "../queries";
import { useBoard } from "./board";

/** What can be done with all the cards chosen, at the page's foot. */
export function BulkBar({ tickets, clear }: { tickets: Ticket[]; clear: () => void }) {
  const { brand, may } = useBrandContext();
  const { window } = useBoard();
  const moves = useMoves(brand.slug);
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const [by, setBy] = useState("1");
  const movable = tickets.filter((t) => t.moves);
  const days = Number(by);

  function shift() {
    const first = window.days[0]?.date ?? "";
    const list = movable.map((t) => ({
      id: t.id,
      revision: t.revision,
      wall_time: `${addDays(first, t.day + days)}T${t.time}`,
      profile: null,
      snap: false,
    }));
    moves.mutate({ moves: list, whole: false, words: `Moved by ${days} ${Math.abs(days) === 1 ? "day" : "days"}.` });
    clear();
  }
  function toTray() {
    const list = movable.map((t) => ({ id: t.id, revision: t.revision, wall_time: null, profile: null, snap: false }));
    moves.mutate({ moves: list, whole: false, words: "Taken off the calendar." });
    clear();
  }
  async function callOff() {
    try {
      const body = { deliveries: tickets.map((t) => t.id) };
      const done = await callOffDeliveries(brand.slug, body);
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      const entry = done.undo;
      toast(`Called ${done.moved.length} off.`, { undo: entry ? () => undo(entry) : undefined });
      clear();
    } catch (error) {
      toast(told(error as Error), { wrong: true });
    }
    await changed("delivery");
  }
  return (
    <Flex
      role="region"
      aria-label="Chosen cards"
      position="sticky"
      bottom="86px"
      zIndex="6"
      bg="ink"
      color="paper"
      px={{ base: "12px", md: "24px" }}
      py="8px"
      gap="8px"
      align="center"
      flexWrap="wrap"
    >
      <b>
        {tickets.length} {tickets.length === 1 ? "card" : "cards"} chosen
      </b>
      {may("publish") && movable.length > 0 && (
        <>
          <Flex align="center" gap="4px" ml="8px">
            <Box asChild bg="paper" color="ink" w="64px" px="6px" minH="28px" borderRadius="3px">
              <input
                type="number"
                aria-label="Days to move by"
                value={by}
                min={-366}
                max={366}
                onChange={(e) => setBy(e.currentTarget.value)}
              />
            </Box>
            <Button color="ink" minH="28px" onClick={shift} disabled={!Number.isInteger(days) || !days}>
              Move by days
            </Button>
          </Flex>
          <Button color="ink" minH="28px" onClick={toTray}>
            Back to the tray
          </Button>
          <Button color="ink" minH="28px" onClick={callOff}>
            Call off
          </Button>
        </>
      )}
      {may("write") && brand.needs_signoff && <PutUp tickets={tickets} clear={clear} />}
      {may("write") && <MarkMenu tickets={tickets} />}
      <Box flex="1" />
      <Button kind="quiet" color="paper" _hover={{ color: "paper" }} minH="28px" onClick={clear}>
        Choose none
      </Button>
    </Flex>
  );
}

/** Put every post of the cards up for sign-off. */
function PutUp({ tickets, clear }: { tickets: Ticket[]; clear: () => void }) {
  const { brand } = useBrandContext();
  const { putUp } = useSignoffActions(brand.slug);
  async function go() {
    const ids = [...new Set(tickets.map((t) => t.post))];
    const posts = await Promise.all(ids.map((id) => fetchPost(brand.slug, id)));
    putUp.mutate(posts.map(({ id, revision }) => ({ id, revision })));
    clear();
  }
  return (
    <Button color="ink" minH="28px" disabled={putUp.isPending} onClick={() => void go()}>
      Put up for sign-off
    </Button>
  );
}

function MarkMenu({ tickets }: { tickets: Ticket[] }) {
  const { brand } = useBrandContext();
  const labels = useLabels(brand.slug).data ?? [];
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const changed = useChanged(brand.slug);
  const posts = [...new Set(tickets.map((t) => t.post))];
  async function mark(
    part: { add?: number[]; remove?: number[]; campaign?: number | null; sets_campaign?: boolean },
    words: string,
  ) {
    try {
      const body = { posts, add: [], remove: [], campaign: null, sets_campaign: false, ...part };
      const done = await markPosts(brand.slug, body);
      toast(`${words}: ${done.posts} ${done.posts === 1 ? "post" : "posts"}.`);
    } catch (error) {
      toast(told(error as Error), { wrong: true });
    }
    await changed("delivery");
  }
  if (!labels.length && !campaigns.length) return null;
  const isOn = (id: number) => tickets.every((t) => t.labels.includes(id));
  const toggle = (label: { id: number; name: string }) =>
    isOn(label.id)
      ? mark({ remove: [label.id] }, `Took ${label.name} off`)
      : mark({ add: [label.id] }, `Labelled ${label.name}`);
  const gather = (one: { id: number; name: string } | null) =>
    mark(
      { campaign: one?.id ?? null, sets_campaign: true },
      one ? `Gathered in ${one.name}` : "Taken out of its campaign",
    );
  return (
    <ChoiceMenu
      label="Labels and campaigns"
      trigger={
        <Button color="ink" minH="28px">
          Label ▴
        </Button>
      }
      choices={[
        ...markChoices(labels, campaigns),
        ...(campaigns.length ? [{ value: "none", words: "no campaign" }] : []),
      ]}
      chosen={labels.filter((label) => isOn(label.id)).map((label) => `l${label.id}`)}
      toggle={(value) => {
        const id = Number(value.slice(1));
        const label = value[0] === "l" && labels.find((one) => one.id === id);
        if (label) void toggle(label);
        else void gather(campaigns.find((one) => value[0] === "c" && one.id === id) ?? null);
      }}
    />
  );
}
