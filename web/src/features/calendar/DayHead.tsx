import { Box } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { formatWeekday } from "@/ui/times";

/** A day over its column; today on ink. */
export function DayHead({ day, role }: { day: Schemas["DayOut"]; role?: "columnheader" }) {
  return (
    <Box
      role={role}
      aria-current={role && day.today ? "date" : undefined}
      borderLeftWidth="1px"
      borderColor="rule"
      p="4px 6px"
      fontSize="11px"
      lineHeight="14px"
      color={day.today ? "paper" : "faded"}
      bg={day.today ? "ink" : day.weekday > 4 ? "wash" : undefined}
    >
      {formatWeekday(day.weekday)}
      <Box
        fontFamily="heading"
        fontWeight="500"
        fontSize="16px"
        lineHeight="19px"
        color={day.today ? "paper" : "ink"}
        fontVariantNumeric="tabular-nums"
      >
        {Number(day.date.slice(8))}
      </Box>
    </Box>
  );
}
