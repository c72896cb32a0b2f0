import { Box, Flex } from "@chakra-ui/react";
import type { Post } from "@/api/client";
import { Button } from "@/ui/Button";
import type { Draft } from "./draft";

/** Two people at one post: both wordings, and one chooses. */
export function ClashBanner({ mine, theirs, settle }: { mine: Draft; theirs: Post; settle: (mine: boolean) => void }) {
  return (
    <Box
      role="alert"
      mx={{ base: "12px", md: "24px" }}
      mb="10px"
      p="12px"
      borderLeft="3px solid"
      borderColor="maize"
      bg="wash"
    >
      <b>Someone changed this post while you were writing.</b> Nothing is lost: choose which stands.
      <Flex gap="16px" my="10px" flexWrap="wrap">
        <Side
          title="As it stands now"
          text={theirs.master.text ?? ""}
          action="Take theirs"
          press={() => settle(false)}
        />
        <Side title="What you wrote" text={mine.master.text ?? ""} action="Keep mine" press={() => settle(true)} />
      </Flex>
    </Box>
  );
}

function Side({ title, text, action, press }: { title: string; text: string; action: string; press: () => void }) {
  return (
    <Box flex="1 1 260px" bg="card" borderWidth="1px" borderColor="rule" p="10px">
      <Box fontWeight="600" fontSize="12px" color="faded">
        {title}
      </Box>
      <Box whiteSpace="pre-wrap" overflowWrap="anywhere" maxH="160px" overflowY="auto" my="6px">
        {text || <i>No words</i>}
      </Box>
      <Button onClick={press}>{action}</Button>
    </Box>
  );
}
