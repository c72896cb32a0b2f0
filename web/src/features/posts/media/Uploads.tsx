import { Box, Flex } from "@chakra-ui/react";
import { Button } from "@/ui/Button";
import type { useUploads } from "./useUploads";

/** How far each file got, and what became of those that failed. */
export function Uploads({ uploads }: { uploads: Pick<ReturnType<typeof useUploads>, "going" | "again" | "drop"> }) {
  return (
    <Box fontSize="12px" lineHeight="16px">
      {uploads.going.map((one) =>
        one.wrong ? (
          <Box key={one.id} mt="6px">
            <Box role="alert" color="pimenton">
              {one.wrong}
            </Box>
            <Flex gap="10px">
              <Button kind="link" fontSize="12px" onClick={() => void uploads.again(one.id)}>
                Try again
              </Button>
              <Button kind="link" fontSize="12px" aria-label={`Leave ${one.name}`} onClick={() => uploads.drop(one.id)}>
                Leave it
              </Button>
            </Flex>
          </Box>
        ) : (
          <Box key={one.id} mt="6px" role="status">
            <Box color="faded" truncate>
              {one.part >= 1 ? "Reading" : "Sending"} {one.name}
            </Box>
            <Box
              role="progressbar"
              aria-label={one.name}
              aria-valuenow={Math.round(one.part * 100)}
              aria-valuemin={0}
              aria-valuemax={100}
              h="4px"
              bg="rule"
            >
              <Box h="4px" bg="anil" w={`${one.part * 100}%`} />
            </Box>
          </Box>
        ),
      )}
    </Box>
  );
}
