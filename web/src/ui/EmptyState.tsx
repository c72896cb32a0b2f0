import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** What a page is for, when there is nothing on it yet, and the first step. */
export function EmptyState({ title, words, children }: { title: string; words: string; children?: ReactNode }) {
  return (
    <Flex direction="column" align="flex-start" maxW="520px" mx="auto" my="64px" px="24px" gap="8px">
      <Box as="h2" fontSize="24px" lineHeight="30px">
        {title}
      </Box>
      <Box color="faded">{words}</Box>
      {children && (
        <Flex gap="10px" mt="8px">
          {children}
        </Flex>
      )}
    </Flex>
  );
}
