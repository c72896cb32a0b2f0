import { chakra, Toast, Toaster } from "@chakra-ui/react";
import { Kbd } from "./Kbd";
import { toaster } from "./toasts";

const Message = chakra(Toast.Root, {
  base: {
    display: "flex",
    alignItems: "center",
    gap: "16px",
    bg: "ink",
    color: "paper",
    borderRadius: "3px",
    px: "14px",
    py: "8px",
    w: "max-content",
    maxW: "min(560px, calc(100vw - 32px))",
    borderLeft: "4px solid",
    borderColor: "epazote",
    "&[data-type=error]": { borderColor: "pimenton" },
  },
});
const look = { color: "paper", cursor: "pointer", minH: "24px", minW: "24px" } as const;

/** The region where messages appear; read out politely. */
export function Toasts() {
  return (
    <Toaster toaster={toaster}>
      {(message) => (
        <Message unstyled>
          <Toast.Title unstyled flex="1">
            {message.title}
          </Toast.Title>
          {message.action && (
            <Toast.ActionTrigger unstyled textDecoration="underline" whiteSpace="nowrap" {...look}>
              {message.action.label} <Kbd>z</Kbd>
            </Toast.ActionTrigger>
          )}
          <Toast.CloseTrigger unstyled aria-label="Dismiss" {...look}>
            ✕
          </Toast.CloseTrigger>
        </Message>
      )}
    </Toaster>
  );
}
