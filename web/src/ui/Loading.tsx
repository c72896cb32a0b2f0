import { Box } from "@chakra-ui/react";

export function Loading() {
  return (
    <Box p="24px" color="faded" fontStyle="italic" role="status">
      One moment
    </Box>
  );
}
