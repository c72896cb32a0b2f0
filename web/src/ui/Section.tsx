import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A part of a page of settings, under its own heading. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box as="section" aria-label={title} borderTopWidth="1px" borderColor="rule" py="14px">
      <Box as="h2" fontSize="18px" lineHeight="22px" mb="10px">
        {title}
      </Box>
      {children}
    </Box>
  );
}
