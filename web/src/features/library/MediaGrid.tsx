import { Box, chakra, Flex } from "@chakra-ui/react";
import type { KeyboardEvent } from "react";
import { useBrandContext } from "@/app/brandContext";
import { Play } from "@/ui/Marks";
import type { Asset } from "./queries";

export type ShelfProps = {
  assets: Asset[];
  chosen: number[];
  toggle: (id: number, through: boolean) => void;
  open: (id: number) => void;
};

/** Arrows go from picture to picture; space chooses, enter opens. */
export function byArrows(event: KeyboardEvent<HTMLElement>, perRow: number): void {
  const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -perRow, ArrowDown: perRow };
  const step = steps[event.key];
  if (step === undefined) return;
  const all = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-asset]")];
  const at = all.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  event.preventDefault();
  all[Math.min(Math.max(at + step, 0), all.length - 1)]?.focus();
}

/** Media as pictures in their true shapes. */
export function MediaGrid({ assets, chosen, toggle, open }: ShelfProps) {
  const { brand } = useBrandContext();
  return (
    <Box
      as="ul"
      listStyleType="none"
      m="0"
      p="0"
      display="grid"
      gridTemplateColumns="repeat(auto-fill, minmax(150px, 1fr))"
      gap="14px"
      onKeyDown={(event: KeyboardEvent<HTMLElement>) =>
        byArrows(event, getComputedStyle(event.currentTarget).gridTemplateColumns.split(" ").length)
      }
    >
      {assets.map((asset) => {
        const on = chosen.includes(asset.id);
        return (
          <Box as="li" key={asset.id} position="relative">
            <chakra.button
              type="button"
              data-asset={asset.id}
              onClick={() => open(asset.id)}
              onKeyDown={(e) => {
                if (e.key !== " ") return;
                e.preventDefault();
                toggle(asset.id, e.shiftKey);
              }}
              w="100%"
              textAlign="left"
              borderWidth="2px"
              borderColor={on ? "anil" : "rule"}
              bg="card"
              cursor="pointer"
            >
              <Flex h="128px" align="center" justify="center" bg="wash" overflow="hidden">
                <img
                  src={`/media/${brand.slug}/${asset.id}/thumb`}
                  alt={asset.alt}
                  loading="lazy"
                  style={{ maxWidth: "100%", maxHeight: "128px" }}
                />
              </Flex>
              <Box p="6px 8px" fontSize="12px" lineHeight="16px">
                <Box truncate fontWeight="600">
                  {asset.name}
                </Box>
                <Box color="faded" fontVariantNumeric="tabular-nums">
                  {asset.width} × {asset.height}
                  {asset.seconds !== null && ` · ${Math.round(asset.seconds)} s`}
                </Box>
                <Box color={asset.used_in ? "faded" : "maizeInk"}>
                  {asset.used_in ? `in ${asset.used_in} ${asset.used_in === 1 ? "post" : "posts"}` : "not used yet"}
                </Box>
              </Box>
            </chakra.button>
            <chakra.input
              type="checkbox"
              aria-label={`Choose ${asset.name}`}
              checked={on}
              onChange={() => undefined}
              onClick={(e) => toggle(asset.id, e.shiftKey)}
              position="absolute"
              top="8px"
              left="8px"
              w="24px"
              h="24px"
              accentColor="var(--m-colors-anil)"
            />
            {asset.kind !== "picture" && (
              <Box position="absolute" top="8px" right="8px" bg="#000000b0" color="#ffffff" px="5px" fontSize="11px">
                {asset.kind === "video" ? (
                  <>
                    <Play /> video
                  </>
                ) : (
                  "moving"
                )}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
