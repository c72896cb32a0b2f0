import { Box, chakra, Flex } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { describeAsset } from "@/data/library";
import { Button } from "@/ui/Button";
import { Area } from "@/ui/TextArea";
import { BatchButton } from "./BatchButton";
import { type Asset, useMediaActions } from "./queries";

const BLANK = /_{3,}/g;

/** A bundle's captions, edited in place one after another: Tab goes from blank to blank, then to the next picture. */
export function BundlePage({ folder, assets }: { folder: Schemas["FolderOut"]; assets: Asset[] }) {
  const [laying, setLaying] = useState(false);
  const inOrder = [...assets].sort((a, b) => a.id - b.id);
  return (
    <Box>
      <Flex justify="space-between" align="center" mb="10px" gap="12px" flexWrap="wrap">
        <Box color="faded">
          Blanks are the ___ in a caption. Tab goes to the next one. What you write is kept when you leave it.
        </Box>
        <Button kind="main" onClick={() => setLaying(true)}>
          Make drafts of all {inOrder.length}
        </Button>
      </Flex>
      {inOrder.map((asset) => (
        <Caption key={asset.id} asset={asset} />
      ))}
      {laying && <BatchButton assets={inOrder} close={() => setLaying(false)} />}
      <Box color="faded" fontSize="12px" mt="10px">
        {folder.name} stays as it is. Copy the folder first when it is somebody else's.
      </Box>
    </Box>
  );
}

function Caption({ asset }: { asset: Asset }) {
  const { brand } = useBrandContext();
  const actions = useMediaActions(brand.slug);
  const field = useRef<HTMLTextAreaElement>(null);
  const [text, setText] = useState(asset.caption);
  const [wrong, setWrong] = useState("");
  const blanks = text.match(BLANK)?.length ?? 0;

  async function keep() {
    if (text === asset.caption) return;
    try {
      await describeAsset(brand.slug, asset.id, { caption: text });
      setWrong("");
      await actions.fresh();
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : "The caption could not be kept.");
    }
  }
  /** Choose the next blank after `from`; false when there is none. */
  function toBlank(from: number): boolean {
    BLANK.lastIndex = from;
    const found = BLANK.exec(field.current?.value ?? "");
    if (!found) return false;
    field.current?.setSelectionRange(found.index, found.index + found[0].length);
    return true;
  }
  return (
    <Flex gap="14px" borderTopWidth="1px" borderColor="rule" py="10px" align="flex-start">
      <Box asChild w="120px" flex="none">
        <img src={`/media/${brand.slug}/${asset.id}/thumb`} alt={asset.alt} />
      </Box>
      <Box flex="1">
        <chakra.label fontWeight="600" fontSize="13px" display="block" mb="4px" htmlFor={`caption-${asset.id}`}>
          {asset.name}
        </chakra.label>
        <Area
          id={`caption-${asset.id}`}
          ref={field}
          rows={2}
          maxLength={20_000}
          value={text}
          aria-invalid={wrong ? true : undefined}
          onChange={(e) => setText(e.currentTarget.value)}
          onFocus={() => toBlank(0)}
          onBlur={() => void keep()}
          onKeyDown={(e) => {
            if (e.key === "Tab" && !e.shiftKey && toBlank(e.currentTarget.selectionEnd)) e.preventDefault();
          }}
        />
        <Box fontSize="12px" color={blanks ? "maizeInk" : "epazote"}>
          {blanks ? `${blanks} ${blanks === 1 ? "blank" : "blanks"} to fill in` : "ready"}
        </Box>
        {wrong && (
          <Box role="alert" color="pimenton" fontSize="12px">
            {wrong}
          </Box>
        )}
      </Box>
    </Flex>
  );
}
