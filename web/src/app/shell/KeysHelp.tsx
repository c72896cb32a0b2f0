import { Box, Flex } from "@chakra-ui/react";
import { Kbd } from "@/ui/Kbd";
import { SidePanel } from "@/ui/SidePanel";

const KEYS: [string, string][] = [
  ["n", "new post"],
  ["1", "Today"],
  ["2", "Calendar"],
  ["3", "Rotas"],
  ["4", "Relays"],
  ["7", "Library"],
  ["b", "brands and the brand's pages"],
  ["t", "today"],
  ["/", "look for words in posts, on the calendar"],
  ["← ↑ ↓ →", "from card to card"],
  ["enter", "open a card, or begin a post on an empty day"],
  [
    "space",
    "lift a card; ← → carry it a day, ↑ ↓ a quarter of an hour (in the month a week), page up and down to another profile; enter sets it down; delete puts it in the tray; esc puts it back",
  ],
  ["i", "peek at a card"],
  ["x", "choose a card; shift x chooses up to it"],
  ["alt", "while dragging: to the nearest free slot of that day"],
  ["z", "undo"],
  ["space", "in the library: choose the picture; shift space chooses up to it"],
  ["ctrl enter", "on the Bench: plan"],
  ["/", "on the Bench, at a word's start: insert snippets, tag sets, emoji, placeholders, link tags, mentions"],
  ["alt ← →", "on the Bench: the column before, the next column"],
  ["?", "this list"],
];

export function KeysHelp({ open, close }: { open: boolean; close: () => void }) {
  return (
    <SidePanel title="Keys" open={open} close={close}>
      {KEYS.map(([key, words]) => (
        <Flex key={words} gap="12px" py="6px" borderBottomWidth="1px" borderColor="rule">
          <Box w="96px" flex="none">
            <Kbd>{key}</Kbd>
          </Box>
          <Box>{words}</Box>
        </Flex>
      ))}
    </SidePanel>
  );
}
