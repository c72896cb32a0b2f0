import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { addQuotations } from "@/data/rotas";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { Select } from "@/ui/Select";
import { Tick } from "@/ui/Tick";
import { useForm } from "@/ui/useForm";
import { useQuotations, useRotaAction } from "./queries";

type Subject = Schemas["Subject"];
const SUBJECTS: [Subject, string][] = [
  ["nature", "Nature and gardens"],
  ["sky", "Sky and stars"],
  ["table", "Bread and table"],
  ["work", "Work"],
  ["learning", "Learning and books"],
  ["friendship", "Friendship"],
  ["courage", "Courage"],
  ["time", "Time and seasons"],
  ["home", "Home and guests"],
  ["beauty", "Beauty and art"],
  ["kindness", "Kindness"],
  ["wit", "Wit"],
];

/** Quotations out of copyright: looked for, chosen, and put in as text or as pictures. */
export function FillQuotations({ rota, close }: { rota: number; close: () => void }) {
  const { brand } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const form = useForm();
  const [words, setWords] = useState("");
  const [subject, setSubject] = useState<Subject | "">("");
  const [chosen, setChosen] = useState<string[]>([]);
  const [pictures, setPictures] = useState(false);
  const [tags, setTags] = useState("");
  const found = useQuotations(brand.slug, words.trim(), subject);
  async function add() {
    const body = { quotations: chosen, pictures, tags: tags.split(/[\s,]+/).filter(Boolean) };
    const fine = await form.send(() => addQuotations(brand.slug, rota, body));
    if (!fine) return;
    await act(async () => undefined, `${chosen.length} ${chosen.length === 1 ? "quotation" : "quotations"} put in.`);
    close();
  }
  return (
    <>
      <Box color="faded" fontSize="13px" mb="10px">
        All are out of copyright. Those near to what the brand sheet speaks of come first. A rota with quotations goes
        out once a day at most.
      </Box>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} columnGap="16px">
        <Field label="Words, author or work" value={words} onChange={(e) => setWords(e.currentTarget.value)} />
        <Select label="Subject" value={subject} onChange={(e) => setSubject(e.currentTarget.value as Subject | "")}>
          <option value="">any</option>
          {SUBJECTS.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </Select>
      </Box>
      {!found.data ? (
        <Loading />
      ) : (
        <Box as="fieldset" mb="14px">
          <Box as="legend" fontWeight="600">
            Quotations
          </Box>
          <Box color="faded" fontSize="12px" role="status">
            {found.data.count} found
            {found.data.count > found.data.quotations.length && `, ${found.data.quotations.length} shown`}
          </Box>
          {found.data.quotations.map((one) => (
            <Box key={one.id} borderTopWidth="1px" borderColor="rule" py="2px">
              <Tick
                checked={chosen.includes(one.id)}
                onChange={() =>
                  setChosen(chosen.includes(one.id) ? chosen.filter((id) => id !== one.id) : [...chosen, one.id])
                }
              >
                <Box as="span" fontFamily="heading" fontSize="15px">
                  “{one.text}”
                </Box>{" "}
                <Box as="span" color="faded" fontSize="12px" title={`Compared with ${one.source}`}>
                  {one.author}, {one.work}, {one.year}
                </Box>
              </Tick>
            </Box>
          ))}
        </Box>
      )}
      <Box position="sticky" bottom="-20px" bg="card" pt="10px" borderTopWidth="1px" borderColor="rule">
        <Field
          label="Hashtags that stand under each"
          value={tags}
          onChange={(e) => setTags(e.currentTarget.value)}
          error={form.problem?.faults.find((f) => f.pointer.startsWith("/tags"))?.detail}
        />
        <Flex gap="16px" align="center" flexWrap="wrap" pb="12px">
          <Button kind="main" disabled={form.busy || chosen.length === 0} onClick={() => void add()}>
            Put {chosen.length || ""} in
          </Button>
          <Tick checked={pictures} onChange={(e) => setPictures(e.target.checked)}>
            each with a picture in the brand’s colours
          </Tick>
        </Flex>
        {form.loose("/tags") && (
          <Box role="alert" color="pimenton" pb="10px">
            {form.loose("/tags")}
          </Box>
        )}
      </Box>
    </>
  );
}
