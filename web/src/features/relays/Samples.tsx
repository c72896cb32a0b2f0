import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { sampleRelay } from "@/data/relays";
import { Thumb } from "@/features/calendar/Tray";
import { Button } from "@/ui/Button";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import type { Sample } from "./queries";

type Props = { body: Schemas["RelayCellIn"]; faults: (problem: Problem | null) => void };

/** The last ten items of the source, exactly as they would go out with these settings; nothing is kept or sent. */
export function Samples({ body, faults }: Props) {
  const { brand, may } = useBrandContext();
  const [found, setFound] = useState<Sample[] | null>(null);
  const [busy, setBusy] = useState(false);
  async function look() {
    setBusy(true);
    faults(null);
    try {
      setFound(await sampleRelay(brand.slug, body));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      faults(error);
    } finally {
      setBusy(false);
    }
  }
  const fires = found?.filter((one) => one.fires).length ?? 0;
  return (
    <Box as="section" aria-label="Sample" borderTopWidth="2px" borderColor="ink" pt="10px" mt="10px">
      <Flex gap="12px" align="center" mb="6px" flexWrap="wrap">
        <Button onClick={() => void look()} disabled={busy || !may("publish")}>
          {found ? "Try it again" : "Try it on the last ten"}
        </Button>
        <Box color="faded" role="status">
          {found &&
            (found.length
              ? `${fires} of the last ${found.length} would go out. Nothing is sent.`
              : "Nothing has appeared there yet.")}
        </Box>
      </Flex>
      {found?.map((one) => (
        <SampleRow key={`${one.occurred_at}${one.title}`} one={one} />
      ))}
    </Box>
  );
}

function SampleRow({ one }: { one: Sample }) {
  const { brand, me } = useBrandContext();
  return (
    <Box
      display="grid"
      gridTemplateColumns={{ base: "1fr", md: "220px 1fr" }}
      gap="6px 18px"
      borderTopWidth="1px"
      borderColor="rule"
      py="8px"
      fontSize="13px"
      lineHeight="18px"
    >
      <Box minW="0">
        <Box fontWeight="600" overflowWrap="anywhere">
          {one.title || "without words"}
        </Box>
        <Box color="faded" fontSize="12px">
          {formatInstant(one.occurred_at, brand.zone, me.clock24)}
        </Box>
        <Flex gap="6px" mt="4px" color={one.fires ? "epazote" : "faded"} align="flex-start">
          <Box pt="2px">
            <StateShape state={one.fires ? "published" : "called_off"} size={12} />
          </Box>
          {one.fires ? "would go" : one.reason}
        </Flex>
      </Box>
      {(one.fires || one.text) && (
        <Box minW="0" opacity={one.fires ? 1 : 0.7} bg="wash" p="8px 10px" borderRadius="2px">
          <Flex gap="8px" mb={one.media.length ? "6px" : 0} flexWrap="wrap">
            {one.media.map((medium, n) =>
              medium.asset ? (
                <Thumb key={medium.asset} brand={brand.slug} asset={medium.asset} w="72px" h="54px" />
              ) : (
                <Flex
                  // biome-ignore lint/suspicious/noArrayIndexKey: two may lead to the same address
                  key={n}
                  w="72px"
                  h="54px"
                  align="center"
                  justify="center"
                  borderWidth="1px"
                  borderStyle="dashed"
                  borderColor="faded"
                  fontSize="11px"
                  lineHeight="13px"
                  textAlign="center"
                  title={medium.address}
                >
                  {medium.address === "banner" ? "banner, drawn then" : "fetched then"}
                </Flex>
              ),
            )}
          </Flex>
          <Box whiteSpace="pre-wrap" overflowWrap="anywhere">
            {one.text || <i>without words</i>}
          </Box>
          {one.first_comment && <Box color="faded">First comment: {one.first_comment}</Box>}
          {one.link && (
            <Box color="anil" overflowWrap="anywhere">
              {one.link}
            </Box>
          )}
          {Object.entries(one.fields).map(([name, value]) => (
            <Box key={name} color="faded">
              {name}: {value}
            </Box>
          ))}
          {one.fixes.length > 0 && <Box color="faded">Mended to fit: {one.fixes.join(", ").toLowerCase()}</Box>}
          {one.findings.map((finding) => (
            <Box key={finding.message} color={finding.level === "stops" ? "pimenton" : "maizeInk"}>
              {finding.message}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
