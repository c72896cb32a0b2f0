import { Box, chakra, Flex } from "@chakra-ui/react";
import type { Outcome } from "./deck";

const INK: Record<Outcome, string> = { open: "rule", agreed: "epazote", back: "maize", gone: "faded" };
const WORDS: Record<Outcome, string> = {
  open: "waits",
  agreed: "signed off",
  back: "sent back",
  gone: "no longer waits",
};
// More than these have no room for a thumb on a phone.
const MOST = 12;

type Props = { order: number[]; outcome: (id: number) => Outcome; present: number; go: (id: number) => void };

/** What became of each post so far, and the way to any of them; of very many, how far one is. */
export function Progress({ order, outcome, present, go }: Props) {
  if (order.length > MOST) {
    const done = order.filter((id) => outcome(id) !== "open").length;
    return (
      <Box py="20px">
        <Box h="4px" bg="rule" role="img" aria-label={`${done} of ${order.length} answered`}>
          <Box h="4px" bg="epazote" style={{ width: `${(done / order.length) * 100}%` }} />
        </Box>
      </Box>
    );
  }
  return (
    <Flex gap="4px" py="12px" role="list" aria-label="Posts to sign off">
      {order.map((id, n) => (
        <Box role="listitem" key={id} flex="1" minW="0">
          <chakra.button
            type="button"
            aria-label={`Post ${n + 1} of ${order.length}, ${WORDS[outcome(id)]}`}
            aria-current={id === present ? "true" : undefined}
            onClick={() => go(id)}
            display="block"
            w="100%"
            minW="24px"
            h="24px"
            cursor="pointer"
          >
            <Box h="4px" bg={id === present ? "ink" : INK[outcome(id)]} />
          </chakra.button>
        </Box>
      ))}
    </Flex>
  );
}
