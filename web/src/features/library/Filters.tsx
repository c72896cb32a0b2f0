import { Box, Flex } from "@chakra-ui/react";
import { type ReactNode, useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import { Picker } from "@/ui/Select";
import type { MediaSearch } from "./MediaPage";

type Props = {
  search: MediaSearch;
  set: (more: Partial<MediaSearch>) => void;
  total: number | undefined;
  labels: Schemas["LabelOut"][];
  children: ReactNode;
};
const PAUSE_MS = 250;

/** What is looked for, always in sight and cleared at one press; and how it is laid out. */
export function Filters({ search, set, total, labels, children }: Props) {
  const [words, setWords] = useState(search.words ?? "");
  const on = search.words || search.label || search.kind || search.used !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is typed settles first
  useEffect(() => {
    const timer = setTimeout(() => (search.words ?? "") !== words && set({ words: words || undefined }), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [words]);
  return (
    <Flex gap="8px" align="center" flexWrap="wrap" mb="12px">
      <Input
        type="search"
        aria-label="Search media"
        placeholder="name, alt text, label, words of a post"
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
        maxW="210px"
      />
      <Picker
        aria-label="Label"
        value={search.label ?? ""}
        onChange={(e) => set({ label: e.currentTarget.value || undefined })}
        w="118px"
      >
        <option value="">any label</option>
        {labels.map(({ label, count }) => (
          <option key={label} value={label}>
            {label} ({count})
          </option>
        ))}
      </Picker>
      <Picker
        aria-label="Kind"
        value={search.kind ?? ""}
        onChange={(e) => set({ kind: (e.currentTarget.value || undefined) as MediaSearch["kind"] })}
        w="104px"
      >
        <option value="">any kind</option>
        <option value="picture">pictures</option>
        <option value="animation">moving</option>
        <option value="video">videos</option>
      </Picker>
      <Picker
        aria-label="Used or not"
        value={search.used === undefined ? "" : String(search.used)}
        onChange={(e) => set({ used: e.currentTarget.value === "" ? undefined : e.currentTarget.value === "true" })}
        w="124px"
      >
        <option value="">used or not</option>
        <option value="true">used</option>
        <option value="false">not used yet</option>
      </Picker>
      {on && (
        <Button
          kind="link"
          onClick={() => {
            setWords("");
            set({ words: undefined, label: undefined, kind: undefined, used: undefined });
          }}
        >
          Clear
        </Button>
      )}
      <Box color="faded" fontVariantNumeric="tabular-nums">
        {total !== undefined && (total === 1 ? "1 found" : `${total} found`)}
      </Box>
      <Box flex="1" />
      <Flex role="group" aria-label="Laid out as">
        <Button aria-pressed={!search.list} onClick={() => set({ list: undefined })} borderRadius="3px 0 0 3px">
          Grid
        </Button>
        <Button aria-pressed={search.list ?? false} onClick={() => set({ list: true })} borderRadius="0 3px 3px 0">
          List
        </Button>
      </Flex>
      {children}
    </Flex>
  );
}
