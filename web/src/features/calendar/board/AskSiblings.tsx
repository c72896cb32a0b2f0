import { Box, chakra, Dialog, Flex, Portal } from "@chakra-ui/react";
import { useState } from "react";
import { Button } from "@/ui/Button";
import { Tick } from "@/ui/Tick";
import type { Ask } from "./useDrop";

const Frame = chakra(Dialog.Content, {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "2px",
    borderColor: "ink",
    p: "20px 24px",
    w: "min(440px, 92vw)",
    outline: "none",
    zIndex: 45,
    boxShadow: "8px 8px 0 color-mix(in srgb, var(--m-colors-ink) 14%, transparent)",
  },
});

type Props = { ask: Ask; answer: (whole: boolean | null, remember: boolean) => void };

/** Whether the other deliveries of a post go along. */
export function AskSiblings({ ask, answer }: Props) {
  const [remember, setRemember] = useState(false);
  const others = ask.count === 1 ? "One more delivery" : `${ask.count} more deliveries`;
  return (
    <Dialog.Root open role="alertdialog" onOpenChange={(change) => !change.open && answer(null, false)}>
      <Portal>
        <Dialog.Backdrop position="fixed" inset="0" bg="ink/20" zIndex="44" />
        <Dialog.Positioner position="fixed" inset="0" display="grid" placeItems="center" zIndex="45">
          <Frame>
            <Dialog.Title asChild>
              <Box as="h2" fontSize="20px" lineHeight="26px">
                Only this, or the whole post?
              </Box>
            </Dialog.Title>
            <Box my="10px">
              {others} of the same post {ask.count === 1 ? "is" : "are"} planned too.
            </Box>
            <Tick checked={remember} onChange={(e) => setRemember(e.target.checked)}>
              Do the same for the rest of this session
            </Tick>
            <Flex gap="8px" mt="14px" flexWrap="wrap">
              <Button kind="main" onClick={() => answer(false, remember)}>
                Only this
              </Button>
              <Button onClick={() => answer(true, remember)}>The whole post</Button>
              <Button kind="quiet" onClick={() => answer(null, false)}>
                Leave it
              </Button>
            </Flex>
          </Frame>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
