import { Box, Flex } from "@chakra-ui/react";
import { Kbd } from "@/ui/Kbd";
import { SidePanel } from "@/ui/SidePanel";

const KEYS: [string, string][] = [
  ["n", "new post"],
  ["1", "Today"],
  ["2", "Calendar"],
  ["b", "brands and the brand's pages"],
  ["t", "today"],
  ["← ↑ ↓ →", "from card to card"],
  ["enter", "open a card, or begin a post on an empty day"],
  ["space", "lift a card; ← → carry it a day, ↑ ↓ a quarter of an hour; enter sets it down; esc puts it back"],
  ["z", "undo"],
  ["ctrl enter", "on the Bench: plan"],
  ["alt ← →", "on the Bench: the column before, the next column"],
  ["?", "this list"],
];

export function KeysHelp({ open, close }: { open: boolean; close: () => void }) {
  return (
    <SidePanel title="Keys" open={open} close={close}>
      {KEYS.map(([key, words]) => (
        <Flex key={key} gap="12px" py="6px" borderBottomWidth="1px" borderColor="rule">
          <Box w="96px" flex="none">
            <Kbd>{key}</Kbd>
          </Box>
          <Box>{words}</Box>
        </Flex>
      ))}
    </SidePanel>
  );
}
