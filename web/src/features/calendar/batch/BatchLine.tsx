import { Box, Flex } from "@chakra-ui/react";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks, useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { NetworkTile } from "@/ui/NetworkTile";
import { formatWallTime } from "@/ui/times";
import type { Row } from "./useBatch";

const LOUD = new Set(["stops", "clash"]);

/** One date of a laying: moved or left out by hand. */
export function BatchLine({
  row,
  move,
  leave,
}: {
  row: Row;
  move: (key: string, wall: string) => void;
  leave: (key: string) => void;
}) {
  const { brand, me } = useBrandContext();
  const networks = useNetworks();
  const profile = useProfiles(brand.slug).data?.find((p) => p.id === row.profile);
  const network = networks.get(profile?.network ?? "");
  const name = `${row.headline || "no words yet"}, ${profile?.handle}`;
  return (
    <Flex
      borderBottomWidth="1px"
      borderColor="rule"
      py="4px"
      gap="10px"
      align="center"
      opacity={row.left ? 0.5 : 1}
      flexWrap="wrap"
    >
      <Box
        asChild
        bg="card"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="3px"
        px="6px"
        minH="28px"
        fontVariantNumeric="tabular-nums"
      >
        <input
          type="datetime-local"
          aria-label={`Time of ${name}`}
          value={row.wall_time ?? ""}
          onChange={(e) => move(row.key, e.currentTarget.value)}
        />
      </Box>
      {network && <NetworkTile letters={network.letters} shape={network.shape} size={18} />}
      <Box flex="1" minW="140px" textDecoration={row.left ? "line-through" : undefined}>
        <Box overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
          {row.headline || <i>no words yet</i>}
        </Box>
        <Box fontSize="12px" color="faded">
          {row.wall_time ? formatWallTime(row.wall_time, me.clock24) : "nowhere"}
          {row.jitter !== 0 && ` (${row.jitter > 0 ? "+" : "−"}${Math.abs(row.jitter)} min)`}
        </Box>
      </Box>
      <Box fontSize="12px" maxW="300px">
        {row.notes.map((note) => (
          <Box key={note.message} color={LOUD.has(note.kind) ? "pimenton" : "maizeInk"}>
            {note.message}
          </Box>
        ))}
      </Box>
      <Button
        kind="quiet"
        minH="26px"
        onClick={() => leave(row.key)}
        aria-label={row.left ? `Take in ${name}` : `Leave out ${name}`}
      >
        {row.left ? "Take in" : "Leave out"}
      </Button>
    </Flex>
  );
}
