import { Box, Flex } from "@chakra-ui/react";
import { useId } from "react";
import { Input } from "./Field";
import { formatBothClocks, formatZone } from "./times";

type Props = { date: string; time: string; zone: string; change: (date: string, time: string) => void; error?: string };

/** A day and a time, and under them the same in words: a browser writes dates its own way, and 3 is not 15. */
export function WallTimeInput({ date, time, zone, change, error }: Props) {
  const id = useId();
  const shared = { "aria-invalid": error ? true : undefined, "aria-describedby": id };
  return (
    <Box>
      <Flex gap="8px">
        <Input
          type="date"
          aria-label="Day"
          value={date}
          required
          onChange={(e) => change(e.currentTarget.value, time)}
          {...shared}
        />
        <Input
          type="time"
          aria-label={`Time, ${formatZone(zone)}`}
          value={time}
          required
          onChange={(e) => change(date, e.currentTarget.value)}
          {...shared}
        />
      </Flex>
      <Box
        id={id}
        fontSize="12px"
        lineHeight="16px"
        mt="4px"
        color={error ? "pimenton" : "faded"}
        role={error ? "alert" : undefined}
      >
        {error ?? (date && time ? `${formatBothClocks(`${date}T${time}`)}, ${formatZone(zone)}` : formatZone(zone))}
      </Box>
    </Box>
  );
}
