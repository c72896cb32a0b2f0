import { Box, chakra, Flex } from "@chakra-ui/react";
import { type DragEvent, useId, useState } from "react";
import { type Asset, Problem } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { AltField } from "./AltField";
import { PutBack } from "./PutBack";
import { addAsset } from "./queries";

type Props = {
  label: string;
  media: number[];
  assets: Map<number, Asset>;
  change: (media: number[]) => void;
  added: (asset: Asset) => void;
  inherited?: boolean;
  putBack?: () => void;
  describes?: boolean;
};

/** The media of the master or of a version: add by choosing or dropping files, order, take out. */
export function MediaCell({ label, media, assets, change, added, inherited, putBack, describes }: Props) {
  const { brand } = useHere();
  const id = useId();
  const [busy, setBusy] = useState<string[]>([]);
  const [wrong, setWrong] = useState<string[]>([]);

  async function add(files: File[]) {
    setWrong([]);
    setBusy(files.map((file) => file.name));
    const all = [...media];
    for (const file of files) {
      try {
        const asset = await addAsset(brand.slug, file);
        added(asset);
        if (!all.includes(asset.id)) all.push(asset.id);
        change([...all]);
      } catch (error) {
        setWrong((w) => [...w, error instanceof Problem ? error.message : `“${file.name}” could not be added.`]);
      }
      setBusy((b) => b.slice(1));
    }
  }
  const swap = (at: number, by: number) => {
    const next = [...media];
    const [moved] = next.splice(at, 1);
    if (moved !== undefined) next.splice(at + by, 0, moved);
    change(next);
  };
  function drop(event: DragEvent) {
    if (!event.dataTransfer.files.length) return;
    event.preventDefault();
    void add([...event.dataTransfer.files]);
  }

  return (
    <Box onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      {putBack && !inherited && <PutBack words={`Put the media for ${label} back to the master`} press={putBack} />}
      <Flex gap="8px" flexWrap="wrap" opacity={inherited ? 0.75 : 1}>
        {media.map((asset, at) => {
          const known = assets.get(asset);
          const name = known?.name ?? "picture";
          return (
            <Box key={asset} w={describes ? "100%" : "auto"}>
              <Flex gap="8px" align="flex-start">
                <Box
                  asChild
                  maxH={describes ? "84px" : "56px"}
                  maxW={describes ? "110px" : "90px"}
                  borderRadius="2px"
                  flex="none"
                >
                  <img src={`/media/${brand.slug}/${asset}/thumb`} alt={known?.alt || name} />
                </Box>
                {describes && known && <AltField asset={known} added={added} />}
              </Flex>
              <Flex>
                {at > 0 && <Small label={`Move ${name} earlier`} press={() => swap(at, -1)} words="‹" />}
                {at < media.length - 1 && <Small label={`Move ${name} later`} press={() => swap(at, 1)} words="›" />}
                <Small
                  label={`Take ${name} out of ${label}`}
                  press={() => change(media.filter((m) => m !== asset))}
                  words="✕"
                />
                {describes && known && (
                  <Box fontSize="11px" color="faded" alignSelf="center" ml="6px">
                    {known.width} × {known.height}
                  </Box>
                )}
              </Flex>
            </Box>
          );
        })}
      </Flex>
      {busy.length > 0 && (
        <Box role="status" color="faded" fontStyle="italic">
          Adding {busy.join(", ")}
        </Box>
      )}
      {wrong.map((words) => (
        <Box key={words} role="alert" color="pimenton" fontSize="12px" lineHeight="16px" mt="6px">
          {words}
        </Box>
      ))}
      <Button asChild mt="6px" fontSize="12px" minH="26px" py="2px" kind={describes ? "plain" : "quiet"}>
        <label htmlFor={id}>Add pictures{describes ? "" : ` for ${label} only`}</label>
      </Button>
      <chakra.input
        id={id}
        type="file"
        multiple
        accept="image/jpeg,image/png,image/webp,image/gif"
        position="absolute"
        w="1px"
        h="1px"
        overflow="hidden"
        clipPath="inset(50%)"
        onChange={(e) => {
          void add([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
    </Box>
  );
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
