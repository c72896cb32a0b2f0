import { Box, chakra } from "@chakra-ui/react";
import { useEffect, useId, useMemo } from "react";
import { useInserts } from "./inserts";
import type { PaletteState } from "./usePalette";

const MOST = 9;
const Row = chakra("div", {
  base: {
    display: "flex",
    gap: "12px",
    justifyContent: "space-between",
    px: "12px",
    py: "6px",
    minH: "32px",
    cursor: "pointer",
    borderBottomWidth: "1px",
    borderColor: "rule",
    _last: { borderBottomWidth: "0" },
    "&[aria-selected=true]": { bg: "wash", fontWeight: "600" },
  },
});

/** What “/” offers: snippets, tag sets, emoji, placeholders, link tags, mentions, narrowed by what is typed after it. */
export function Palette({ palette, network }: { palette: PaletteState; network?: string }) {
  const id = useId();
  const inserts = useInserts(palette.words, network);
  const shown = useMemo(() => inserts.slice(0, MOST), [inserts]);
  useEffect(() => {
    palette.found.current = shown;
  }, [palette.found, shown]);
  return (
    <Box
      position="absolute"
      left="0"
      top="calc(100% - 22px)"
      w="min(340px, 92vw)"
      bg="card"
      borderWidth="1px"
      borderColor="ink"
      boxShadow="6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)"
      zIndex="20"
      fontStyle="normal"
      color="ink"
      data-testid="palette"
    >
      <Box display="flex" justifyContent="space-between" px="12px" py="5px" fontSize="11.5px" color="faded">
        <span>Insert{palette.words && ` “${palette.words}”`}</span>
        <span>↑↓ enter</span>
      </Box>
      <Box role="listbox" aria-label="Insert" id={id} maxH="320px" overflowY="auto">
        {shown.map((insert, at) => (
          <Row
            key={insert.key}
            role="option"
            tabIndex={-1}
            aria-selected={at === palette.at}
            onMouseEnter={() => palette.setAt(at)}
            onMouseDown={(event) => {
              event.preventDefault();
              void palette.take(insert);
            }}
          >
            <Box overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
              {insert.shown}
            </Box>
            <Box color="faded" fontSize="12px" whiteSpace="nowrap" fontWeight="400">
              {insert.about}
            </Box>
          </Row>
        ))}
      </Box>
      {shown.length === 0 && (
        <Box px="12px" py="8px" color="faded" role="status">
          Nothing like that is kept. Escape closes this.
        </Box>
      )}
    </Box>
  );
}
