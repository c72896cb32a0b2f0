import { Box } from "@chakra-ui/react";
import { Select } from "@/ui/Select";
import { TextArea } from "@/ui/TextArea";
import type { Showing } from "../draft";

type Place = "top" | "middle" | "foot";

/** Words over a story's frame. */
export function WordsEditor({ showing, set }: { showing: Showing; set: (more: Partial<Showing>) => void }) {
  return (
    <Box as="section" aria-label="Words over the frame" mt="18px">
      <TextArea
        label="Words over the frame"
        rows={2}
        maxLength={300}
        value={showing.words ?? ""}
        onChange={(e) => set({ words: e.currentTarget.value || null })}
      />
      <Select
        label="Where they stand"
        value={showing.words_at ?? "foot"}
        onChange={(e) => set({ words_at: e.currentTarget.value as Place })}
      >
        <option value="top">at the top</option>
        <option value="middle">in the middle</option>
        <option value="foot">at the foot</option>
      </Select>
    </Box>
  );
}
