import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { type Finding, Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { toast } from "@/ui/toasts";
import { type BenchColumn, differingParts, withOverrides } from "../draft";
import { usePlace } from "../place";
import { fixFinding } from "../queries";

/** What the rules say, in the cell it belongs to: stops first, advice after; each with what can be mended in one step. */
export function Findings({ findings, column }: { findings: Finding[]; column: BenchColumn }) {
  return (
    <Box aria-live="polite" clear="both">
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
            {finding.message}
            {finding.fixes.length > 0 && <Mends finding={finding} column={column} />}
          </Box>
        );
      })}
    </Box>
  );
}

function Mends({ finding, column }: { finding: Finding; column: BenchColumn }) {
  const { brand } = useBrandContext();
  const { change, now } = usePlace();
  const [busy, setBusy] = useState(false);

  async function step(name: string, words: string) {
    const before = now();
    setBusy(true);
    try {
      const own = await fixFinding(brand.slug, before, column, finding.field, name);
      // Only what the step changed: what is typed meanwhile stays.
      change((d) => withOverrides(d, column.key, differingParts(before.overrides[column.key], own)));
      toast(`${words}: done for this column.`, {
        undo: async () =>
          change((d) => {
            const { [column.key]: _, ...others } = d.overrides;
            const own = before.overrides[column.key];
            return { ...d, overrides: own ? { ...others, [column.key]: own } : others };
          }),
      });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    } finally {
      setBusy(false);
    }
  }
  return (
    <Flex gap="12px" mt="2px" flexWrap="wrap">
      {finding.fixes.map(({ fix: name, label: words }) => (
        <Button key={name} kind="link" fontSize="12px" disabled={busy} onClick={() => void step(name, words)}>
          {words}
        </Button>
      ))}
    </Flex>
  );
}
