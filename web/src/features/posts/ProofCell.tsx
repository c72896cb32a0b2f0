import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Column, Profile } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";

/** What followers will see: the text as it folds, the pictures in their true shapes. */
export function ProofCell({ column, profile }: { column: Column | undefined; profile: Profile | undefined }) {
  const { brand } = useHere();
  const [whole, setWhole] = useState(false);
  if (!column || !profile) return null;
  const { seen, hidden, rows, link } = column.proof;
  return (
    <Box
      borderWidth="1px"
      borderColor="rule"
      borderRadius="8px"
      bg="paper"
      p="10px"
      fontSize="12.5px"
      lineHeight="17px"
      data-testid="proof"
    >
      <Flex gap="8px" align="center" mb="6px">
        <Box w="24px" h="24px" borderRadius="50%" bg={brand.ink} flex="none" />
        <Box>
          <b>{profile.name}</b>{" "}
          <Box as="span" color="faded">
            {profile.handle}
          </Box>
        </Box>
      </Flex>
      <Box whiteSpace="pre-wrap" overflowWrap="anywhere" dir="auto" data-testid="proof-text">
        {whole ? seen + hidden : seen}
        {hidden && !whole && (
          <Button kind="link" ml="4px" fontSize="12px" onClick={() => setWhole(true)}>
            … more
          </Button>
        )}
        {!seen && rows.length === 0 && (
          <Box as="i" color="faded">
            Nothing to see yet.
          </Box>
        )}
      </Box>
      {link && rows.length === 0 && (
        <Box
          mt="6px"
          borderWidth="1px"
          borderColor="rule"
          borderRadius="4px"
          p="6px 8px"
          overflowWrap="anywhere"
          color="anil"
        >
          {link}
        </Box>
      )}
      {rows.map((row) => (
        <Flex key={row.map((piece) => piece.asset).join()} gap="4px" mt="6px">
          {row.map((piece) => (
            <Box
              key={piece.asset}
              w={`${piece.share * 100}%`}
              aspectRatio={`${piece.width} / ${piece.height}`}
              minW="0"
              data-proof-picture={`${piece.width}x${piece.height}`}
            >
              <img
                src={`/media/${brand.slug}/${piece.asset}/thumb`}
                alt={piece.alt}
                style={{ width: "100%", height: "100%", borderRadius: 4, display: "block" }}
              />
            </Box>
          ))}
        </Flex>
      ))}
    </Box>
  );
}
