import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { TargetPicker } from "@/features/talk/TargetPicker";
import { type RemarkTarget, type Version, WHOLE_POST } from "@/features/talk/target";
import { Button } from "@/ui/Button";
import { TextArea } from "@/ui/TextArea";
import type { PendingColumn } from "./deck";

type Props = {
  mode: "change" | "edit";
  versions: Version[];
  column?: PendingColumn;
  busy: boolean;
  cancel: () => void;
  change: (words: string, on: RemarkTarget) => void;
  say?: (words: string, on: RemarkTarget) => void;
  edit?: (text: string) => void;
};

/** What should be changed, and where; or another wording, signed off as it is written here. */
export function Answer({ mode, versions, column, busy, cancel, change, say, edit }: Props) {
  const [words, setWords] = useState(mode === "edit" ? (column?.text ?? "") : "");
  const [on, setOn] = useState(WHOLE_POST);
  const [missing, setMissing] = useState(false);
  const empty = words.trim() === "";

  function send() {
    if (empty) setMissing(true);
    else if (mode === "edit") edit?.(words);
    else change(words, on);
  }
  return (
    <Box
      asChild
      onKeyDown={(e) => {
        if (e.key === "Escape") cancel();
        if (e.ctrlKey && e.key === "Enter") send();
      }}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
      >
        <TextArea
          label={mode === "edit" ? `The wording for ${column?.name}` : "What should be changed?"}
          rows={mode === "edit" ? 5 : 3}
          autoFocus
          value={words}
          maxLength={4000}
          error={missing && empty ? "Write a few words first." : undefined}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        {mode === "change" && (
          <Box mb="12px">
            <TargetPicker versions={versions} on={on} change={setOn} />
          </Box>
        )}
        <Flex gap="10px" flexWrap="wrap">
          <Button minH="44px" onClick={cancel}>
            Not now
          </Button>
          {mode === "change" && say && (
            <Button minH="44px" disabled={busy} onClick={() => (empty ? setMissing(true) : say(words, on))}>
              Only say it
            </Button>
          )}
          <Button type="submit" flex="1" minH="44px" kind="main" disabled={busy}>
            {mode === "edit" ? "Sign off with this change" : "Send it back"}
          </Button>
        </Flex>
      </form>
    </Box>
  );
}
