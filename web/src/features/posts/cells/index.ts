import { Box, chakra } from "@chakra-ui/react";

export const Cell = chakra(Box, {
  base: {
    borderBottomWidth: "1px",
    borderLeftWidth: "1px",
    borderColor: "rule",
    p: "8px 12px",
    bg: "card",
    minW: "0",
    overflowWrap: "anywhere",
    fontSize: "13px",
    lineHeight: "18px",
  },
});
export const RowHead = chakra(Box, {
  base: {
    borderBottomWidth: "1px",
    borderColor: "rule",
    bg: "paper",
    color: "faded",
    fontSize: "12px",
    fontWeight: "600",
    p: { base: "8px 6px 8px 12px", md: "8px 8px 8px 24px" },
    position: { md: "sticky" },
    left: "0",
    zIndex: "2",
  },
});

/** The master's cells stay in sight while the networks scroll sideways. */
export const master = {
  borderRightWidth: "2px",
  borderRightColor: "ink",
  position: { md: "sticky" },
  left: "92px",
  zIndex: "2",
  // What opens in a cell lies over the cells under it.
  _focusWithin: { zIndex: "8" },
} as const;
