import { Box, chakra, Dialog, Flex, Portal } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "./Button";

const Question = chakra(Dialog.Content, {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "1px",
    borderColor: "ink",
    borderTop: "3px solid",
    borderTopColor: "pimenton",
    boxShadow: "6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)",
    maxW: "min(480px, calc(100vw - 24px))",
    p: "16px 20px",
    outline: "none",
  },
});

type Props = {
  title: string;
  open: boolean;
  leave: string;
  go: string;
  busy?: boolean;
  close: () => void;
  act: () => void;
  children: ReactNode;
};

/** Asks once more before what can't be undone. What leaves things as they are has the focus. */
export function Confirm({ title, open, leave, go, busy, close, act, children }: Props) {
  return (
    <Dialog.Root
      role="alertdialog"
      open={open}
      onOpenChange={(change) => !change.open && close()}
      lazyMount
      unmountOnExit
    >
      <Portal>
        <Dialog.Backdrop position="fixed" inset="0" bg="ink/20" zIndex="45" />
        <Dialog.Positioner
          position="fixed"
          inset="0"
          zIndex="50"
          display="flex"
          alignItems="center"
          justifyContent="center"
        >
          <Question>
            <Dialog.Title asChild>
              <Box as="h2" fontSize="20px" lineHeight="26px" mb="6px">
                {title}
              </Box>
            </Dialog.Title>
            <Dialog.Description as="div">{children}</Dialog.Description>
            <Flex gap="8px" mt="14px">
              <Button onClick={close}>{leave}</Button>
              <Button kind="main" disabled={busy} onClick={act}>
                {go}
              </Button>
            </Flex>
          </Question>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
