import { Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

type Tone = "epazote" | "maize" | "pimenton" | "anil";

/** A line that says what happened or stands in the way, with what can be done at its end. */
export function Bar({ tone, children, ...rest }: { tone: Tone; children: ReactNode; role?: "status" | "alert" }) {
  return (
    <Flex
      align="center"
      gap="12px"
      flexWrap="wrap"
      p="9px 14px"
      bg="wash"
      borderLeft="3px solid"
      borderColor={tone}
      {...rest}
    >
      {children}
    </Flex>
  );
}
