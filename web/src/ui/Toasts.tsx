import { Box, Flex } from "@chakra-ui/react";
import { Button } from "./Button";
import { Kbd } from "./Kbd";
import { dismissToast, useToasts } from "./toasts";

/** The region where notices appear; read out politely. */
export function Toasts() {
  const notices = useToasts();
  return (
    <Box
      position="fixed"
      left="24px"
      bottom="16px"
      zIndex="60"
      role="status"
      aria-live="polite"
      display="grid"
      gap="8px"
    >
      {notices.map((notice) => (
        <Flex
          key={notice.id}
          align="center"
          gap="16px"
          bg="ink"
          color="paper"
          borderRadius="3px"
          px="14px"
          py="8px"
          maxW="560px"
          borderLeft="4px solid"
          borderColor={notice.wrong ? "pimenton" : "epazote"}
        >
          <Box flex="1">{notice.words}</Box>
          {notice.undo && (
            <Button
              kind="quiet"
              color="paper"
              textDecoration="underline"
              _hover={{ color: "paper" }}
              onClick={() => {
                dismissToast(notice.id);
                void notice.undo?.();
              }}
            >
              Undo <Kbd>z</Kbd>
            </Button>
          )}
          <Button
            kind="quiet"
            color="paper"
            _hover={{ color: "paper" }}
            aria-label="Dismiss"
            onClick={() => dismissToast(notice.id)}
          >
            ✕
          </Button>
        </Flex>
      ))}
    </Box>
  );
}
