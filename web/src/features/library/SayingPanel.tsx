import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import {
  createLinkTags,
  createSnippet,
  createTagSet,
  deleteLinkTags,
  deleteSnippet,
  deleteTagSet,
  updateLinkTags,
  updateSnippet,
  updateTagSet,
} from "@/data/library";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { TextArea } from "@/ui/TextArea";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import type { SayingKind } from "./SayingsPage";

type Said = Record<string, string | boolean>;
export type Saying = { id: number; name: string; shows: string; said: Said };
type Props = { kind: SayingKind; saying: Saying | null; close: () => void };

const NEW: Record<SayingKind, [string, Said]> = {
  snippets: ["New snippet", { text: "" }],
  "tag-sets": ["New tag set", { tags: "" }],
  "link-tags": [
    "New link tags",
    { source: "{network}", medium: "social", campaign: "", content: "", term: "", keeps: true, in_text: true },
  ],
};
const PARTS = ["source", "medium", "campaign", "content", "term"] as const;

/** Make, change or delete what is kept to be said again. */
export function SayingPanel({ kind, saying, close }: Props) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [title, first] = NEW[kind];
  const [name, setName] = useState(saying?.name ?? "");
  const [said, setValues] = useState<Said>(saying?.said ?? first);
  const set = (part: string) => (e: { currentTarget: { value: string } }) =>
    setValues({ ...said, [part]: e.currentTarget.value });
  const fresh = () => changed("saying");

  function send() {
    const id = saying?.id ?? 0;
    if (kind === "snippets") {
      const body = { name, text: String(said.text) };
      if (saying) return updateSnippet(brand.slug, id, body);
      return createSnippet(brand.slug, body);
    }
    if (kind === "tag-sets") {
      const body = { name, tags: String(said.tags).split(/[\s,]+/) };
      if (saying) return updateTagSet(brand.slug, id, body);
      return createTagSet(brand.slug, body);
    }
    const values = Object.fromEntries(PARTS.map((part) => [part, String(said[part])])) as Record<
      (typeof PARTS)[number],
      string
    >;
    const body = { name, ...values, keeps: said.keeps === true, in_text: said.in_text === true };
    if (saying) return updateLinkTags(brand.slug, id, body);
    return createLinkTags(brand.slug, body);
  }
  async function keep(event: FormEvent) {
    event.preventDefault();
    if (!(await form.send(send))) return;
    await fresh();
    close();
  }
  async function remove() {
    if (!saying) return;
    const id = saying.id;
    try {
      if (kind === "snippets") await deleteSnippet(brand.slug, id);
      else if (kind === "tag-sets") await deleteTagSet(brand.slug, id);
      else await deleteLinkTags(brand.slug, id);
      await fresh();
      toast(`“${saying.name}” is deleted. What was written with it stays.`);
      close();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  return (
    <SidePanel title={saying?.name ?? title} open close={close}>
      <chakra.form onSubmit={keep}>
        <Field
          label="Name"
          value={name}
          maxLength={80}
          autoFocus
          onChange={(e) => setName(e.currentTarget.value)}
          error={form.at("/name")}
        />
        {kind === "snippets" && (
          <TextArea
            label="What it says"
            hint="{brand}, {network}, {profile}, {link}, {title}, {date}, {day}, {month} are filled in when it goes out; ___ is a blank."
            rows={6}
            value={String(said.text)}
            onChange={set("text")}
            error={form.at("/text")}
          />
        )}
        {kind === "tag-sets" && (
          <TextArea
            label="Hashtags, with a space between"
            rows={4}
            value={String(said.tags)}
            onChange={set("tags")}
            error={form.problem?.faults.find((f) => f.pointer.startsWith("/tags"))?.detail}
          />
        )}
        {kind === "link-tags" && (
          <>
            <Box color="faded" fontSize="12px" mb="10px">
              Placeholders: {"{network}, {campaign}, {profile}, {date}, {title}"}. An empty value is not added.
            </Box>
            {PARTS.map((part) => (
              <Field
                key={part}
                label={`utm_${part}`}
                value={String(said[part])}
                maxLength={200}
                onChange={set(part)}
                error={form.at(`/${part}`)}
              />
            ))}
            <Tick checked={said.keeps === true} onChange={(e) => setValues({ ...said, keeps: e.target.checked })}>
              What stands in a link already stays as it is
            </Tick>
            <Tick checked={said.in_text === true} onChange={(e) => setValues({ ...said, in_text: e.target.checked })}>
              Links in the text are tagged too
            </Tick>
          </>
        )}
        <Flex gap="8px" mt="12px">
          <Button kind="main" type="submit" disabled={form.busy}>
            Keep
          </Button>
          {saying && <Button onClick={() => void remove()}>Delete</Button>}
        </Flex>
      </chakra.form>
    </SidePanel>
  );
}
