import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";

/** What became of a text: what went is struck through, what came is underlined; words say so to those who listen. */
export function Diff({ segments }: { segments: Schemas["SegmentOut"][] }) {
  return (
    <Box whiteSpace="pre-wrap" overflowWrap="anywhere" dir="auto">
      {segments.map((segment, at) => {
        // biome-ignore lint/suspicious/noArrayIndexKey: segments have no identity but their place
        if (segment.change === "same") return <span key={at}>{segment.text}</span>;
        const gone = segment.change === "gone";
        return (
          <chakra.span
            // biome-ignore lint/suspicious/noArrayIndexKey: segments have no identity but their place
            key={at}
            asChild
            bg={gone ? "pimenton/10" : "epazote/15"}
            color={gone ? "pimenton" : "epazote"}
            textDecoration={gone ? "line-through" : "underline"}
          >
            {gone ? <del>{segment.text}</del> : <ins>{segment.text}</ins>}
          </chakra.span>
        );
      })}
    </Box>
  );
}
