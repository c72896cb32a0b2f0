import { Box } from "@chakra-ui/react";
import { Tick } from "@/ui/Tick";
import { formatZone } from "@/ui/times";

type Hold = "wall" | "instant";
type Props = { planned: number; was: string; zone: string; hold: Hold; set: (hold: Hold) => void };

/** A zone changes while something is planned: does the time on the wall hold, or the moment? */
export function ZoneHold({ planned, was, zone, hold, set }: Props) {
  return (
    <Box
      role="radiogroup"
      aria-label="What is planned"
      p="8px 12px"
      bg="wash"
      borderLeft="3px solid"
      borderColor="maize"
      mb="14px"
    >
      <b>
        {planned} {planned === 1 ? "post is" : "posts are"} planned in {formatZone(was)}.
      </b>
      <Tick kind="radio" name="hold" checked={hold === "wall"} onChange={() => set("wall")}>
        15:00 stays 15:00: the time on the wall holds, in {formatZone(zone)}
      </Tick>
      <Tick kind="radio" name="hold" checked={hold === "instant"} onChange={() => set("instant")}>
        The moment holds, whatever the clocks there say
      </Tick>
    </Box>
  );
}
