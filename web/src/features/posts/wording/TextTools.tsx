import { chakra, Menu, Portal } from "@chakra-ui/react";
import { lazy, type RefObject, Suspense, useRef, useState } from "react";
import { Pen } from "@/ui/Marks";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { SaveSaying } from "./SaveSaying";
import { TagsPanel } from "./TagsPanel";
import { WordingPanel } from "./WordingPanel";

const EmojiPanel = lazy(() => import("../palette/EmojiPanel"));

type Props = {
  label: string;
  /** What the tools are named for those who hear the page. */
  name: string;
  area: RefObject<HTMLTextAreaElement | null>;
  value: string;
  change: (text: string) => void;
  insert: (text: string) => void;
  network?: string;
  comments?: boolean;
};

/** What helps with a text: emoji, hashtags, wording, and saving what is selected. */
export function TextTools({ label, name, area, value, change, insert, network, comments }: Props) {
  const [open, setOpen] = useState<"emoji" | "tags" | "wording" | "save" | null>(null);
  const selected = useRef("");
  const close = () => setOpen(null);
  // Noted when the menu opens: the selection is lost with the focus.
  function note() {
    const field = area.current;
    selected.current = field ? value.slice(field.selectionStart, field.selectionEnd).trim() : "";
  }
  return (
    <>
      <Menu.Root
        lazyMount
        unmountOnExit
        positioning={{ placement: "bottom-end" }}
        onOpenChange={(e) => e.open && note()}
      >
        <Menu.Trigger asChild>
          <chakra.button
            type="button"
            aria-label={`Writing tools: ${name}`}
            title="Emoji, hashtags, wording, keep to say again"
            color="faded"
            minW="24px"
            minH="24px"
            fontSize="13px"
            cursor="pointer"
            _hover={{ color: "ink" }}
          >
            <Pen />
          </chakra.button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              <MenuRow value="emoji" onSelect={() => setOpen("emoji")}>
                Emoji
              </MenuRow>
              <MenuRow value="tags" onSelect={() => setOpen("tags")}>
                Hashtags
              </MenuRow>
              {!comments && (
                <MenuRow value="wording" onSelect={() => setOpen("wording")}>
                  Wording help
                </MenuRow>
              )}
              <MenuRow value="save" onSelect={() => setOpen("save")} disabled={!value.trim()}>
                Keep to say again
              </MenuRow>
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {open === "emoji" && (
        <Suspense>
          <EmojiPanel pick={insert} close={close} />
        </Suspense>
      )}
      {open === "tags" && <TagsPanel text={value} change={change} network={network} close={close} />}
      {open === "wording" && (
        <WordingPanel label={label} text={value} change={change} network={network} close={close} />
      )}
      {open === "save" && <SaveSaying text={selected.current || value.trim()} close={close} />}
    </>
  );
}
