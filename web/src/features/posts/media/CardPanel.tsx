import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { readCard } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { TextArea } from "@/ui/TextArea";
import { useForm } from "@/ui/useForm";
import { usePlace } from "../place";
import { LibraryPicker } from "./LibraryPicker";

type Card = Schemas["CardIO"];
type Props = { link: string; card: Card | null; keep: (card: Card) => void; close: () => void };

/** The link's card: read from its page, every part replaceable. */
export function CardPanel({ link, card, keep, close }: Props) {
  const { brand } = useBrandContext();
  const { added } = usePlace();
  const form = useForm();
  const [values, setValues] = useState<Card>(card ?? { title: "", description: "", picture: null });
  const [site, setSite] = useState("");
  const [picking, setPicking] = useState(false);
  const began = useRef(false);

  const read = () =>
    form.send(async () => {
      const found = await readCard(brand.slug, { link });
      setValues(found.card);
      setSite(found.site);
    });
  // A card that isn't there yet is read at once; one that was changed is left alone.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when it opens
  useEffect(() => {
    if (!card && !began.current) void read();
    began.current = true;
  }, []);

  return (
    <SidePanel title="Card of the link" open close={close}>
      <Box color="faded" mb="12px" overflowWrap="anywhere">
        {link}
      </Box>
      {form.busy && <Box role="status">Reading the page …</Box>}
      {form.problem && (
        <Box role="alert" color="pimenton" mb="10px">
          {form.problem.message} You can write the card yourself.
        </Box>
      )}
      <Box borderWidth="1px" borderColor="rule" borderRadius="4px" overflow="hidden" mb="14px" data-testid="card">
        {values.picture && (
          <Box asChild w="100%">
            <img src={`/media/${brand.slug}/${values.picture}/thumb`} alt="" />
          </Box>
        )}
        <Box p="8px 12px">
          <b>{values.title || "No title"}</b>
          <Box fontSize="13px">{values.description}</Box>
          <Box color="faded" fontSize="12px">
            {site || link.replace(/^https?:\/\//, "").split("/")[0]}
          </Box>
        </Box>
      </Box>
      <Field
        label="Title"
        value={values.title}
        maxLength={300}
        onChange={(e) => setValues({ ...values, title: e.currentTarget.value })}
      />
      <TextArea
        label="Description"
        rows={3}
        maxLength={1000}
        value={values.description}
        onChange={(e) => setValues({ ...values, description: e.currentTarget.value })}
      />
      <Flex gap="8px" mb="14px" flexWrap="wrap">
        <Button onClick={() => setPicking(true)}>{values.picture ? "Another picture" : "Choose a picture"}</Button>
        {values.picture && <Button onClick={() => setValues({ ...values, picture: null })}>No picture</Button>}
        <Button onClick={() => void read()} disabled={form.busy}>
          Read the page again
        </Button>
      </Flex>
      <Button
        kind="main"
        onClick={() => {
          keep(values);
          close();
        }}
      >
        Use this card
      </Button>
      {picking && (
        <LibraryPicker
          one
          close={() => setPicking(false)}
          pick={([asset]) => {
            if (!asset) return;
            added(asset);
            setValues({ ...values, picture: asset.id });
          }}
        />
      )}
    </SidePanel>
  );
}
