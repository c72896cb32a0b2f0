import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createLabel, deleteLabel, updateLabel } from "@/data/labels";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useForm } from "@/ui/useForm";
import { INKS, InkMark, type Label } from "../Labels";
import { useLabels } from "../queries";

/** The brand's labels: each a name and one of twelve inks. */
export function LabelsPanel() {
  const { brand, may } = useBrandContext();
  const labels = useLabels(brand.slug).data ?? [];
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [at, setAt] = useState<Label | null>(null);
  const [name, setName] = useState("");
  const [ink, setInk] = useState<string>("anil");
  const begin = (label: Label | null) => {
    setAt(label);
    setName(label?.name ?? "");
    setInk(label?.ink ?? "anil");
  };
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { name, ink };
    const done = await form.send(() => (at ? updateLabel(brand.slug, at.id, body) : createLabel(brand.slug, body)));
    if (!done) return;
    begin(null);
    await changed("label");
  }
  async function remove(id: number) {
    if (await form.send(() => deleteLabel(brand.slug, id))) {
      begin(null);
      await changed("label");
    }
  }
  return (
    <>
      {labels.length === 0 && (
        <Box color="faded">Labels sort posts by what they are for: talks, offers, questions.</Box>
      )}
      {labels.map((label) => (
        <Flex key={label.id} align="center" gap="10px" borderBottomWidth="1px" borderColor="rule" minH="38px">
          <InkMark ink={label.ink} />
          <Box flex="1">{label.name}</Box>
          <Box color="faded" fontSize="12px">
            {label.ink}
          </Box>
          {may("write") && (
            <>
              <Button kind="quiet" minH="26px" aria-label={`Change ${label.name}`} onClick={() => begin(label)}>
                Change
              </Button>
              <Button
                kind="quiet"
                minH="26px"
                aria-label={`Delete ${label.name}; its posts stay`}
                onClick={() => remove(label.id)}
              >
                ✕
              </Button>
            </>
          )}
        </Flex>
      ))}
      {may("write") && (
        <chakra.form onSubmit={send} mt="18px">
          <Field
            label={at ? `Change ${at.name}` : "New label"}
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            maxLength={40}
            error={form.at("/name")}
            required
          />
          <Inks ink={ink} set={setInk} />
          <Button kind="main" type="submit" mt="12px" disabled={form.busy}>
            {at ? "Keep" : "Add label"}
          </Button>
        </chakra.form>
      )}
    </>
  );
}

/** One of the twelve inks; each with its name. */
export function Inks({ ink, set }: { ink: string; set: (ink: string) => void }) {
  return (
    <Flex role="radiogroup" aria-label="Ink" flexWrap="wrap" gap="4px">
      {INKS.map((one) => (
        <chakra.button
          key={one}
          type="button"
          role="radio"
          aria-checked={one === ink}
          onClick={() => set(one)}
          display="flex"
          alignItems="center"
          gap="6px"
          px="8px"
          minH="28px"
          fontSize="12px"
          borderWidth={one === ink ? "2px" : "1px"}
          borderColor={one === ink ? "ink" : "rule"}
          borderRadius="3px"
          cursor="pointer"
        >
          <InkMark ink={one} /> {one}
        </chakra.button>
      ))}
    </Flex>
  );
}
