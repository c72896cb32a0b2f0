import { Box } from "@chakra-ui/react";
import { StateShape } from "@/ui/StateShape";

/** Everything is answered. */
export function NothingPending({ link }: { link: boolean }) {
  return (
    <Box px="20px" py="48px" textAlign="center" w="100%" maxW="560px" mx="auto" role="status">
      <Box display="flex" justifyContent="center">
        <StateShape state="published" size={32} />
      </Box>
      <Box as="h2" fontSize="22px" lineHeight="28px" mt="10px" mb="6px">
        Nothing waits for you
      </Box>
      <Box color="faded">
        {link
          ? "Everything is answered. The same link shows what comes next; you may close this page."
          : "What is put up for sign-off comes here, and is told in your notices."}
      </Box>
    </Box>
  );
}
