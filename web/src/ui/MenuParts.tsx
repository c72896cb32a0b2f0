import { chakra, Menu } from "@chakra-ui/react";

export const MenuList = chakra(Menu.Content, {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "1px",
    borderColor: "ink",
    boxShadow: "6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)",
    minWidth: "220px",
    outline: "none",
    zIndex: 30,
  },
});

export const MenuRow = chakra(Menu.Item, {
  base: {
    display: "flex",
    alignItems: "center",
    gap: "10px",
    px: "12px",
    py: "8px",
    cursor: "pointer",
    borderBottomWidth: "1px",
    borderColor: "rule",
    _last: { borderBottomWidth: "0" },
    "&[data-highlighted]": { bg: "wash", fontWeight: "600" },
  },
});
