import { Box, Flex } from "@chakra-ui/react";
import { Button } from "./Button";
import { Input } from "./Field";
import { toast } from "./toasts";

/** A secret address that is shown this once, to be copied. */
export function LinkOnce({ called, address }: { called: string; address: string }) {
  async function copy() {
    await navigator.clipboard.writeText(address);
    toast("The link is copied.");
  }
  return (
    <Box borderWidth="2px" borderColor="ink" p="12px" mb="14px" maxW="640px">
      <Box mb="6px">
        <b>The link for {called}.</b> It is shown this once.
      </Box>
      <Flex gap="8px">
        <Input readOnly value={address} aria-label="The link" onFocus={(e) => e.currentTarget.select()} />
        <Button kind="main" onClick={() => void copy()}>
          Copy
        </Button>
      </Flex>
    </Box>
  );
}
