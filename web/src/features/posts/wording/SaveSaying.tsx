import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createSnippet, createTagSet } from "@/data/library";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { TextArea } from "@/ui/TextArea";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

const TAG = /#[^\s#]+/g;

/** Keep what was selected as a snippet, or its hashtags as a tag set. */
export function SaveSaying({ text, close }: { text: string; close: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const found = text.match(TAG) ?? [];
  const [kind, setKind] = useState<"snippet" | "tags">(found.length > 1 ? "tags" : "snippet");
  const [name, setName] = useState("");
  const [values, setValues] = useState(text);
  const [tags, setTags] = useState(found.join(" "));

  async function keep(event: FormEvent) {
    event.preventDefault();
    const kept = await form.send(async () => {
      if (kind === "snippet") await createSnippet(brand.slug, { name, text: values });
      else await createTagSet(brand.slug, { name, tags: tags.split(/[\s,]+/) });
    });
    if (!kept) return;
    await changed("saying");
    toast(`Kept as “${name}”. Type / where you write to insert it.`);
    close();
  }
  return (
    <SidePanel title="Keep this to say again" open close={close}>
      <chakra.form onSubmit={keep}>
        <Flex gap="18px" mb="12px" role="radiogroup" aria-label="Keep it as">
          <Tick kind="radio" name="kind" checked={kind === "snippet"} onChange={() => setKind("snippet")}>
            A snippet
          </Tick>
          <Tick kind="radio" name="kind" checked={kind === "tags"} onChange={() => setKind("tags")}>
            A tag set
          </Tick>
        </Flex>
        <Field
          label="Name"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={form.at("/name")}
          maxLength={80}
          autoFocus
        />
        {kind === "snippet" ? (
          <TextArea
            label="What it says"
            hint="Placeholders such as {brand}, {date} or {link} are filled in when it goes out."
            rows={6}
            value={values}
            onChange={(e) => setValues(e.currentTarget.value)}
            error={form.at("/text")}
          />
        ) : (
          <TextArea
            label="Hashtags"
            hint="With a space between them. Each is inserted at most once."
            rows={4}
            value={tags}
            onChange={(e) => setTags(e.currentTarget.value)}
            error={form.problem?.faults.find((f) => f.pointer.startsWith("/tags"))?.detail}
          />
        )}
        {form.loose("/name", "/text", "/tags") && (
          <Box role="alert" color="pimenton" mb="10px">
            {form.loose("/name", "/text", "/tags")}
          </Box>
        )}
        <Button kind="main" type="submit" disabled={form.busy}>
          Keep it
        </Button>
      </chakra.form>
    </SidePanel>
  );
}
