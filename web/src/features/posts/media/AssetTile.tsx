import { Box, chakra, Flex } from "@chakra-ui/react";
import type { Asset, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Play } from "@/ui/Marks";
import type { Showing } from "../draft";
import { pictureOf } from "../proof/src";

type Props = {
  asset: Asset | undefined;
  id: number;
  showing: Showing | undefined;
  size: Schemas["SizeOut"] | undefined;
  /** In the master a tile says what it measures and has its order beside it; in a column it is the picture alone. */
  large: boolean;
  label: string;
  open: () => void;
  earlier?: () => void;
  later?: () => void;
  out: () => void;
};

/** One picture or video in a cell, as it is shown there. */
export function AssetTile({ asset, id, showing, size, large, label, open, earlier, later, out }: Props) {
  const { brand } = useBrandContext();
  const name = asset?.name ?? "picture";
  const piece = {
    asset: id,
    kind: asset?.kind ?? "picture",
    turn: showing?.turn ?? 0,
    crop: showing?.crop ?? { x: 0, y: 0, w: 1, h: 1 },
    cover: showing?.cover ?? null,
    cover_at: showing?.cover_at ?? null,
  };
  const pixels = size ?? asset;
  return (
    <Box flex="none" position="relative" css={{ "&:hover .out, &:focus-within .out": { opacity: 1 } }}>
      <chakra.button
        type="button"
        onClick={open}
        aria-label={`Work on ${name} for ${label}${asset?.kind === "video" ? `, ${Math.round(asset.seconds ?? 0)} s` : ""}`}
        title={`${name}, ${pixels?.width} × ${pixels?.height}: crop, focus, people, thumbnail`}
        display="block"
        position="relative"
        cursor="pointer"
      >
        <img
          src={pictureOf(`/media/${brand.slug}`, piece, 320)}
          alt={asset?.alt || name}
          style={{ maxHeight: large ? 84 : 54, maxWidth: large ? 110 : 84, borderRadius: 2 }}
        />
        {asset?.kind === "video" && (
          <Box position="absolute" left="3px" bottom="3px" bg="#000000b0" color="#ffffff" px="4px" fontSize="10px">
            <Play /> {Math.round(asset.seconds ?? 0)} s
          </Box>
        )}
      </chakra.button>
      {large ? (
        <Flex align="center">
          {earlier && <Small label={`Move ${name} earlier in ${label}`} press={earlier} words="‹" />}
          {later && <Small label={`Move ${name} later in ${label}`} press={later} words="›" />}
          <Small label={`Take ${name} out of ${label}`} press={out} words="✕" />
          <Box fontSize="11px" lineHeight="13px" color="faded" ml="2px">
            {pixels && `${pixels.width} × ${pixels.height}`}
            <Box color="ink">{marksOf(showing).join(", ")}</Box>
          </Box>
        </Flex>
      ) : (
        <Box className="out" position="absolute" top="0" right="0" bg="card" opacity="0" borderRadius="2px">
          <Small label={`Take ${name} out of ${label}`} press={out} words="✕" />
        </Box>
      )}
    </Box>
  );
}

/** What was done to a picture, in words. */
export function marksOf(showing: Showing | undefined): string[] {
  return [
    showing?.crop || showing?.turn ? "cropped" : "",
    showing?.fit ? "made to fit" : "",
    showing?.people?.length ? `${showing.people.length} tagged` : "",
    showing?.words ? "words" : "",
    showing?.cover || showing?.cover_at != null ? "thumbnail" : "",
  ].filter(Boolean);
}

function Small({ label, press, words }: { label: string; press: () => void; words: string }) {
  return (
    <chakra.button
      type="button"
      aria-label={label}
      title={label}
      onClick={press}
      w="24px"
      h="24px"
      color="faded"
      cursor="pointer"
      _hover={{ color: "ink" }}
    >
      {words}
    </chakra.button>
  );
}
