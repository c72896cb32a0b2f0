import { Box, chakra, Dialog, Portal } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "./Button";

const Panel = chakra(Dialog.Content, {
  base: {
    position: "fixed",
    right: "0",
    top: "0",
    bottom: "0",
    "&:not([data-wide])": { w: "min(420px, 100vw)" },
    "&[data-wide]": { w: "min(820px, 100vw)" },
    overflowY: "auto",
    bg: "card",
    color: "ink",
    borderLeft: "2px solid",
    borderColor: "ink",
    p: "20px 24px",
    outline: "none",
    zIndex: 40,
  },
});

/** A panel at the right edge, with the page still in sight; esc closes it. */
export function SidePanel({
  title,
  open,
  close,
  children,
  wide,
}: {
  title: string;
  open: boolean;
  close: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(change) => !change.open && close()} lazyMount unmountOnExit>
      <Portal>
        <Dialog.Backdrop position="fixed" inset="0" bg="ink/20" zIndex="35" />
        <Dialog.Positioner>
          <Panel data-wide={wide ? "" : undefined}>
            <Box display="flex" alignItems="flex-start" justifyContent="space-between" gap="12px" mb="12px">
              <Dialog.Title asChild>
                <Box as="h2" fontSize="20px" lineHeight="26px" overflowWrap="anywhere">
                  {title}
                </Box>
              </Dialog.Title>
              <Button kind="quiet" aria-label="Close" onClick={close}>
                ✕
              </Button>
            </Box>
            {children}
          </Panel>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
