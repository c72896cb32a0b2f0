import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A part of a cell's settings: its name at the left, its fields at the right. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box
      as="section"
      aria-label={title}
      display="grid"
      gridTemplateColumns={{ base: "1fr", md: "92px 1fr" }}
      gap="4px 16px"
      borderTopWidth="1px"
      borderColor="rule"
      pt="10px"
    >
      <Box as="h3" fontWeight="600" color="faded" fontSize="13px">
        {title}
      </Box>
      <Box minW="0">{children}</Box>
    </Box>
  );
}
