import { Box } from "@chakra-ui/react";
import type { Finding } from "@/api/client";

/** What the rules say, in the cell it belongs to: stops first, advice after. */
export function Findings({ findings }: { findings: Finding[] }) {
  return (
    <Box aria-live="polite">
      {findings.map((finding) => {
        const stops = finding.level === "stops";
        return (
          <Box
            key={`${finding.rule}${finding.field}`}
            data-finding={finding.rule}
            mt="6px"
            p="5px 8px"
            fontSize="12px"
            lineHeight="16px"
            borderLeft="3px solid"
            borderColor={stops ? "pimenton" : "maize"}
            bg={stops ? "pimenton/10" : "maize/10"}
          >
            <b>{stops ? "Stops: " : "Advice: "}</b>
            {finding.words}
          </Box>
        );
      })}
    </Box>
  );
}
