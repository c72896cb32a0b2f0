import { Box, Flex } from "@chakra-ui/react";
import type { Column, Network, Profile } from "@/api/client";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape } from "@/ui/StateShape";
import { Cell } from "./cells";

/** A network over its column: its profiles, and what the rules say in all. */
export function ColumnHead({
  network,
  column,
  profiles,
}: {
  network: Network | undefined;
  column: Column | undefined;
  profiles: Profile[];
}) {
  const stops = column?.findings.filter((f) => f.level === "stops").length ?? 0;
  const advice = column?.findings.filter((f) => f.level === "advice").length ?? 0;
  return (
    <Cell bg="paper">
      <Flex gap="10px" align="flex-start">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={26} />}
        <Box minW="0" flex="1">
          <b>{network?.name}</b>
          <Box color="faded" fontSize="11.5px" lineHeight="15px">
            {profiles.map((p) => p.handle).join(", ")}
          </Box>
        </Box>
        {column && (
          <Flex
            gap="4px"
            align="center"
            fontWeight="700"
            fontSize="11.5px"
            color={stops ? "pimenton" : advice ? "maizeInk" : "epazote"}
            data-testid="fits"
          >
            <StateShape state={stops ? "in_trouble" : "published"} size={11} />
            {stops ? `${stops} ${stops === 1 ? "stop" : "stops"}` : advice ? `${advice} advice` : "fits"}
          </Flex>
        )}
      </Flex>
    </Cell>
  );
}
