import { Combobox, chakra, Portal } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** How what is offered lies over the page. */
export const OFFERED = {
  bg: "card",
  color: "ink",
  borderWidth: "1px",
  borderColor: "ink",
  boxShadow: "6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)",
  outline: "none",
  zIndex: 45,
};

/** What is offered while one types. */
export const OfferList = chakra(Combobox.Content, { base: { ...OFFERED, maxH: "300px", overflowY: "auto" } });

export const OfferRow = chakra(Combobox.Item, {
  base: {
    px: "10px",
    py: "6px",
    minH: "32px",
    cursor: "pointer",
    display: "flex",
    alignItems: "center",
    gap: "8px",
    "&[data-highlighted]": { bg: "wash", fontWeight: "600" },
  },
});

/** Under the field, over all else; as wide as the field. */
export function Offers({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Portal>
      <Combobox.Positioner>
        <OfferList aria-label={label}>{children}</OfferList>
      </Combobox.Positioner>
    </Portal>
  );
}
