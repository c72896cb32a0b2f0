import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useToday } from "@/app/shell/useStrip";
import { useChanged } from "@/data/changes";
import { createCampaign, deleteCampaign, postQueries, updateCampaign } from "@/data/posts";
import { useSayings } from "@/features/posts/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { formatDay } from "@/ui/times";
import { useForm } from "@/ui/useForm";
import { InkMark } from "../Labels";
import { Inks } from "./LabelsPanel";

type Campaign = Schemas["CampaignOut"];

/** Campaigns: what gathers posts for a while, and how far each is. */
export function CampaignsPanel() {
  const { brand, may } = useBrandContext();
  const campaigns = useQuery(postQueries.campaignCounts(brand.slug)).data ?? [];
  const [at, setAt] = useState<Campaign | "new" | null>(null);
  const navigate = useNavigate({ from: "/$brand/calendar" });
  if (at) return <CampaignForm campaign={at === "new" ? null : at} close={() => setAt(null)} />;
  return (
    <>
      {campaigns.length === 0 && (
        <Box color="faded">A campaign gathers posts between two days, with hashtags and link tags of its own.</Box>
      )}
      {campaigns.map((c) => (
        <Box key={c.id} borderBottomWidth="1px" borderColor="rule" py="10px">
          <Flex align="center" gap="8px">
            <InkMark ink={c.ink} />
            <b>{c.name}</b>
            <Box color="faded" fontSize="12px">
              {formatDay(c.starts_on)} – {formatDay(c.ends_on)}
            </Box>
          </Flex>
          <Progress campaign={c} />
          <Flex gap="10px" mt="2px">
            <Button
              kind="link"
              onClick={() =>
                navigate({ search: (s) => ({ ...s, campaigns: String(c.id), from: c.starts_on, panel: undefined }) })
              }
            >
              See its posts
            </Button>
            {may("write") && (
              <Button kind="link" onClick={() => setAt(c)}>
                Change
              </Button>
            )}
          </Flex>
        </Box>
      ))}
      {may("write") && (
        <Button kind="main" mt="16px" onClick={() => setAt("new")}>
          New campaign
        </Button>
      )}
    </>
  );
}

const PARTS = [
  ["published", "published", "epazote"],
  ["planned", "planned", "anil"],
  ["trouble", "in trouble", "pimenton"],
  ["drafts", "drafts", "smoke"],
] as const;

function Progress({ campaign }: { campaign: Campaign }) {
  if (!campaign.posts) return <Box color="faded">No posts yet.</Box>;
  return (
    <>
      <Flex h="8px" my="6px" bg="wash" aria-hidden>
        {PARTS.map(([part, , ink]) => (
          <Box key={part} bg={ink} style={{ width: `${(100 * campaign[part]) / campaign.posts}%` }} />
        ))}
      </Flex>
      <Box fontSize="12px">
        {campaign.posts} {campaign.posts === 1 ? "post" : "posts"}:{" "}
        {PARTS.filter(([part]) => campaign[part])
          .map(([part, words]) => `${campaign[part]} ${words}`)
          .join(", ")}
      </Box>
    </>
  );
}

function CampaignForm({ campaign, close }: { campaign: Campaign | null; close: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const presets = useSayings(brand.slug).data?.link_tags ?? [];
  const form = useForm();
  const today = useToday();
  const [values, setValues] = useState({
    name: campaign?.name ?? "", starts_on: campaign?.starts_on ?? today, ends_on: campaign?.ends_on ?? today, ink: campaign?.ink ?? "anil",
    tags: (campaign?.tags ?? []).map((t) => `#${t}`).join(" "), link_tags: campaign?.link_tags ?? null,
  }); // biome-ignore format: one form
  const set = (part: Partial<typeof values>) => setValues((s) => ({ ...s, ...part }));
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { ...values, tags: values.tags.split(/[\s,]+/).filter(Boolean) };
    const done = await form.send(() =>
      campaign ? updateCampaign(brand.slug, campaign.id, body) : createCampaign(brand.slug, body),
    );
    if (!done) return;
    await changed("campaign");
    close();
  }
  async function remove() {
    if (!campaign) return;
    if (!(await form.send(() => deleteCampaign(brand.slug, campaign.id)))) return;
    await changed("campaign");
    close();
  }
  const tagFault = form.problem?.faults.find((f) => f.pointer.startsWith("/tags"))?.detail;
  return (
    <chakra.form onSubmit={send}>
      <Field
        label="Name"
        value={values.name}
        onChange={(e) => set({ name: e.currentTarget.value })}
        maxLength={80}
        error={form.at("/name")}
        required
      />
      <Flex gap="8px">
        <Field
          label="Starts"
          type="date"
          value={values.starts_on}
          onChange={(e) => set({ starts_on: e.currentTarget.value })}
          error={form.at("/starts_on")}
          required
        />
        <Field
          label="Ends"
          type="date"
          value={values.ends_on}
          onChange={(e) => set({ ends_on: e.currentTarget.value })}
          error={form.at("/ends_on")}
          required
        />
      </Flex>
      <Inks ink={values.ink} set={(ink) => set({ ink })} />
      <Box h="14px" />
      <Field
        label="Hashtags that belong to it"
        value={values.tags}
        onChange={(e) => set({ tags: e.currentTarget.value })}
        error={tagFault}
        placeholder="#mossweek"
      />
      <Select
        label="Its links are tagged with"
        value={values.link_tags ?? ""}
        onChange={(e) => set({ link_tags: e.currentTarget.value ? Number(e.currentTarget.value) : null })}
        error={form.at("/link_tags")}
      >
        <option value="">no link tags of its own</option>
        {presets.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </Select>
      <Flex gap="8px">
        <Button kind="main" type="submit" disabled={form.busy}>
          Keep
        </Button>
        <Button kind="quiet" onClick={close}>
          Back
        </Button>
        {campaign && (
          <Button kind="quiet" onClick={remove}>
            Delete; its {campaign.posts} posts stay
          </Button>
        )}
      </Flex>
    </chakra.form>
  );
}
