import { Box } from "@chakra-ui/react";
import type { Network } from "@/api/client";

/** What each kind of profile needs, said before the trip to the network. */
export function Conditions({ kinds }: { kinds: Network["kinds"] }) {
  return (
    <Box as="ul" listStyleType="none" fontSize="12.5px" lineHeight="17px" mb="6px">
      {kinds.map((kind) => (
        <Box as="li" key={kind.kind} mt="3px">
          <Box as="b" display="inline-block" css={{ "&::first-letter": { textTransform: "uppercase" } }}>
            {kind.name}
          </Box>
          {kind.direct ? ": " : " (by hand): "}
          {kind.conditions.map((condition) => condition.message).join(" ")}
        </Box>
      ))}
    </Box>
  );
}
