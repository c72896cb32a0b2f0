import { Box, chakra } from "@chakra-ui/react";
import { useId, useState } from "react";
import { type Asset, Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { describeAsset } from "@/data/library";

/** What a picture shows, for those who can't see it; kept when one leaves the field. */
export function AltField({ asset, added }: { asset: Asset; added: (asset: Asset) => void }) {
  const { brand } = useBrandContext();
  const id = useId();
  const [alt, setAlt] = useState(asset.alt);
  const [wrong, setWrong] = useState("");

  async function keep() {
    if (alt === asset.alt) return;
    try {
      added({ ...asset, ...(await describeAsset(brand.slug, asset.id, { alt })) });
      setWrong("");
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : "The alt text could not be kept.");
    }
  }
  return (
    <Box flex="1" minW="0">
      <chakra.label htmlFor={id} fontSize="11px" color="faded" display="block">
        Alt text
      </chakra.label>
      <chakra.textarea
        id={id}
        value={alt}
        onChange={(e) => setAlt(e.target.value)}
        onBlur={keep}
        rows={2}
        maxLength={4000}
        w="100%"
        bg="transparent"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="2px"
        p="3px 6px"
        fontSize="12px"
        lineHeight="16px"
        aria-invalid={wrong ? true : undefined}
      />
      {wrong && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {wrong}
        </Box>
      )}
    </Box>
  );
}
