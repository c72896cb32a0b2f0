import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { createFromStartingPoint } from "@/data/relays";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { useRelayAction, useStartingPoints } from "./queries";

/** Ready starting points: each fills several cells, and says in full which, before it does. */
export function StartingPointsPanel({ close }: { close: () => void }) {
  const { brand } = useBrandContext();
  const act = useRelayAction(brand.slug);
  const found = useStartingPoints(brand.slug).data;
  const [without, setWithout] = useState<string[]>([]);
  async function fill(key: string) {
    const start = found?.find((one) => one.key === key);
    const cells = start?.cells.filter((_, n) => !without.includes(`${key}:${n}`)) ?? [];
    const done = await act(
      () => createFromStartingPoint(brand.slug, { cells }),
      `${cells.length} ${cells.length === 1 ? "cell is" : "cells are"} filled, all switched off. Look at a sample of each, then switch it on.`,
    );
    if (done) close();
  }
  return (
    <SidePanel title="Starting points" open close={close} wide>
      {!found && <Loading />}
      {found?.length === 0 && (
        <Box color="faded">
          There is nothing to start from that isn’t filled already. Follow a feed, add a catalogue, or connect a profile
          for pictures.
        </Box>
      )}
      {found?.map((start) => (
        <Box key={start.key} as="section" borderTopWidth="2px" borderColor="ink" py="10px" mb="10px">
          <Box as="h3" fontSize="17px">
            {start.name}
          </Box>
          <Box color="faded" mb="6px">
            {start.about}
          </Box>
          {start.summary.map((words, n) => {
            const id = `${start.key}:${n}`;
            return (
              <Tick
                key={id}
                checked={!without.includes(id)}
                onChange={(e) => setWithout(e.target.checked ? without.filter((one) => one !== id) : [...without, id])}
              >
                {words}
              </Tick>
            );
          })}
          <Flex mt="8px">
            <Button
              disabled={start.cells.every((_, n) => without.includes(`${start.key}:${n}`))}
              onClick={() => void fill(start.key)}
            >
              Fill these cells
            </Button>
          </Flex>
        </Box>
      ))}
    </SidePanel>
  );
}
