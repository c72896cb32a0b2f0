import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Wordmark } from "@/ui/Wordmark";

/** A page before one is in: the wordmark, a line, and one form. */
export function DoorPage({ title, said, children }: { title: string; said?: string; children: ReactNode }) {
  return (
    <Flex minH="100vh" align="center" justify="center" p="24px 16px" asChild>
      <main>
        <Box w="100%" maxW="380px">
          <Wordmark size="44px" />
          <Box as="h1" fontSize="20px" lineHeight="26px" mt="6px" mb="24px" color="faded" fontStyle="italic">
            {title}
          </Box>
          {said && (
            <Box role="status" mb="16px" p="10px 12px" bg="wash" borderLeft="3px solid" borderColor="maize">
              {said}
            </Box>
          )}
          {children}
        </Box>
      </main>
    </Flex>
  );
}
