import { Box, chakra, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Asset } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import type { Showing } from "../draft";
import { usePlace } from "../place";
import { LibraryPicker } from "./LibraryPicker";

type Props = { asset: Asset; showing: Showing; set: (more: Partial<Showing>) => void };
const PAUSE_MS = 200;

/** A video's thumbnail: one of its frames, or a picture. */
export function CoverEditor({ asset, showing, set }: Props) {
  const { brand } = useBrandContext();
  const { added } = usePlace();
  const [picking, setPicking] = useState(false);
  const seconds = asset.seconds ?? 0;
  const [at, setAt] = useState(showing.cover_at ?? Math.min(1, seconds / 3));
  const [shown, setShown] = useState(at);
  useEffect(() => {
    const timer = setTimeout(() => setShown(at), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [at]);
  const picture = showing.cover || null;
  return (
    <Box as="section" aria-label="Thumbnail">
      <Box as="h3" fontSize="16px" mb="6px">
        Thumbnail
      </Box>
      <img
        src={
          picture ? `/media/${brand.slug}/${picture}/thumb` : `/media/${brand.slug}/${asset.id}/frame?at=${shown}&w=720`
        }
        alt={picture ? "The picture chosen as thumbnail" : `The frame at ${shown.toFixed(1)} seconds`}
        style={{ maxWidth: "100%", maxHeight: 320 }}
      />
      <chakra.label display="block" fontSize="12px" color="faded" mt="8px">
        Frame at {at.toFixed(1)} of {seconds.toFixed(1)} s
        <chakra.input
          type="range"
          min={0}
          max={seconds}
          step={0.1}
          value={at}
          w="100%"
          minH="24px"
          accentColor="var(--m-colors-anil)"
          onChange={(e) => {
            const value = Number(e.currentTarget.value);
            setAt(value);
            set({ cover_at: value, cover: null });
          }}
        />
      </chakra.label>
      <Flex gap="8px" mt="6px" flexWrap="wrap">
        <Button onClick={() => setPicking(true)}>A picture instead</Button>
        {(picture || showing.cover_at != null) && (
          <Button onClick={() => set({ cover: null, cover_at: null })}>Let the network choose</Button>
        )}
      </Flex>
      {picking && (
        <LibraryPicker
          one
          close={() => setPicking(false)}
          pick={([found]) => {
            if (!found) return;
            added(found);
            set({ cover: found.id, cover_at: null });
          }}
        />
      )}
    </Box>
  );
}
