import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

type PartProps = { title: string; count: number; empty?: string; loud?: boolean; children: ReactNode };

/** A part of the morning page: what it is, how many, and the lines. */
export function Part({ title, count, empty, loud, children }: PartProps) {
  return (
    <Box as="section" aria-label={title} minW="0">
      <Flex
        align="baseline"
        gap="8px"
        borderTopWidth="2px"
        borderColor={loud && count ? "pimenton" : "ink"}
        pt="6px"
        mb="2px"
      >
        <Box as="h2" fontSize="18px" lineHeight="24px">
          {title}
        </Box>
        {count > 0 && <Box color={loud ? "pimenton" : "faded"}>{count}</Box>}
      </Flex>
      {count === 0 ? <Box color="faded">{empty}</Box> : children}
    </Box>
  );
}
