import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

type Props = { title: string; words: string; page?: boolean; children?: ReactNode };

/** What a page is for, when there is nothing on it yet, and the first step. `page`: it is all there is of the page. */
export function EmptyState({ title, words, page, children }: Props) {
  return (
    <Flex direction="column" align="flex-start" maxW="520px" mx="auto" my="64px" px="24px" gap="8px">
      <Box as={page ? "h1" : "h2"} fontSize="24px" lineHeight="30px">
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
