import { useBrandContext } from "@/app/brandContext";
import { InkMark, markChoices } from "@/features/calendar/Labels";
import { useCampaigns, useLabels } from "@/features/calendar/queries";
import { Button } from "@/ui/Button";
import { ChoiceMenu } from "@/ui/ChoiceMenu";
import type { Draft } from "./draft";

/** The labels of the post, and the campaign that gathers it. */
export function MarkPicker({ draft, change }: { draft: Draft; change: (how: (draft: Draft) => Draft) => void }) {
  const { brand } = useBrandContext();
  const labels = useLabels(brand.slug).data ?? [];
  const campaigns = useCampaigns(brand.slug).data ?? [];
  if (!labels.length && !campaigns.length) return null;
  const mine = labels.filter((l) => draft.labels.includes(l.id));
  const campaign = campaigns.find((c) => c.id === draft.campaign);
  const toggle = (id: number) =>
    change((d) => ({ ...d, labels: d.labels.includes(id) ? d.labels.filter((one) => one !== id) : [...d.labels, id] }));
  const words = [...mine.map((l) => l.name), ...(campaign ? [campaign.name] : [])];
  const gather = (id: number) => change((d) => ({ ...d, campaign: d.campaign === id ? null : id }));
  const trigger = (
    <Button title={words.join(", ")}>
      {mine.slice(0, 3).map((l) => (
        <InkMark key={l.id} ink={l.ink} />
      ))}
      {words.length ? `${words[0]}${words.length > 1 ? ` +${words.length - 1}` : ""}` : "Labels"}
    </Button>
  );
  return (
    <ChoiceMenu
      end
      label="Labels and campaigns"
      trigger={trigger}
      choices={markChoices(labels, campaigns)}
      chosen={[...draft.labels.map((id) => `l${id}`), ...(draft.campaign ? [`c${draft.campaign}`] : [])]}
      toggle={(value) => (value[0] === "l" ? toggle : gather)(Number(value.slice(1)))}
    />
  );
}
