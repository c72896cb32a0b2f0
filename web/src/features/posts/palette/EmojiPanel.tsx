import { Box, chakra, Flex } from "@chakra-ui/react";
import {
  EmojiPicker,
  type EmojiPickerListCategoryHeaderProps,
  type EmojiPickerListEmojiProps,
  type SkinTone,
} from "frimousse";
import { useState } from "react";
import { Button } from "@/ui/Button";
import { fieldLook } from "@/ui/Labelled";
import { SidePanel } from "@/ui/SidePanel";
import { emojiTone, recentEmoji, recordEmoji, saveTone, type Tone } from "./emoji";

const TONES: [Tone, string, string][] = [
  ["none", "✋", "no skin tone"],
  ["light", "✋🏻", "light"],
  ["medium-light", "✋🏼", "medium light"],
  ["medium", "✋🏽", "medium"],
  ["medium-dark", "✋🏾", "medium dark"],
  ["dark", "✋🏿", "dark"],
];

function CategoryHeader({ category, ...props }: EmojiPickerListCategoryHeaderProps) {
  return (
    <div {...props}>
      <Box bg="card" color="faded" fontSize="12px" fontWeight="600" py="4px">
        {category.label}
      </Box>
    </div>
  );
}

function Emoji({ emoji, ...props }: EmojiPickerListEmojiProps) {
  return (
    <button {...props}>
      <Box
        w="38px"
        h="38px"
        lineHeight="38px"
        textAlign="center"
        fontSize="21px"
        bg={emoji.isActive ? "wash" : undefined}
      >
        {emoji.emoji}
      </Box>
    </button>
  );
}

/** Every emoji, with search, skin tones and those last used. Its data ship with Menudo. */
export default function EmojiPanel({ pick, close }: { pick: (emoji: string) => void; close: () => void }) {
  const [tone, setTone] = useState<Tone>(emojiTone);
  const recent = recentEmoji();
  const take = (emoji: string) => {
    recordEmoji(emoji);
    pick(emoji);
  };
  return (
    <SidePanel title="Emoji" open close={close}>
      {recent.length > 0 && (
        <Flex gap="2px" flexWrap="wrap" mb="10px" role="group" aria-label="Used of late">
          {recent.map((emoji) => (
            <Button key={emoji} kind="quiet" fontSize="20px" aria-label={`Insert ${emoji}`} onClick={() => take(emoji)}>
              {emoji}
            </Button>
          ))}
        </Flex>
      )}
      <EmojiPicker.Root
        emojibaseUrl="/emoji"
        skinTone={tone as SkinTone}
        onEmojiSelect={({ emoji }) => take(emoji)}
        columns={9}
      >
        <chakra.div {...fieldLook} borderRadius="3px" mb="8px" asChild>
          <EmojiPicker.Search
            aria-label="Search emoji"
            placeholder="moss, party, heart …"
            style={{ padding: "6px 10px", minHeight: 34 }}
          />
        </chakra.div>
        <EmojiPicker.Viewport style={{ height: 340, overflowY: "auto" }}>
          <EmojiPicker.Loading>Getting the emoji ready …</EmojiPicker.Loading>
          <EmojiPicker.Empty>No emoji is called that.</EmojiPicker.Empty>
          <EmojiPicker.List components={{ CategoryHeader, Emoji }} />
        </EmojiPicker.Viewport>
      </EmojiPicker.Root>
      <Flex role="radiogroup" aria-label="Skin tone" mt="10px" gap="2px">
        {TONES.map(([name, hand, words]) => (
          <chakra.button
            key={name}
            type="button"
            role="radio"
            aria-checked={tone === name}
            aria-label={words}
            title={words}
            fontSize="18px"
            w="34px"
            h="34px"
            borderWidth="1px"
            borderColor={tone === name ? "ink" : "transparent"}
            onClick={() => {
              saveTone(name);
              setTone(name);
            }}
          >
            {hand}
          </chakra.button>
        ))}
      </Flex>
    </SidePanel>
  );
}
