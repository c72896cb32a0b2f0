import { Box, chakra, Flex } from "@chakra-ui/react";
import { type ChangeEvent, useId } from "react";
import { useBrandContext } from "@/app/brandContext";
import { uploadAsset } from "@/data/library";
import { Button } from "@/ui/Button";
import { useForm } from "@/ui/useForm";

type Props = { logo: number | null; change: (logo: number | null) => void; error?: string };

/** The brand's logo: a picture of its own, shown as it is. */
export function LogoField({ logo, change, error }: Props) {
  const { brand } = useBrandContext();
  const form = useForm();
  const id = useId();
  function choose(event: ChangeEvent<HTMLInputElement>) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = "";
    if (file) void form.send(async () => change((await uploadAsset(brand.slug, file, () => undefined)).id));
  }
  return (
    <Box mb="14px">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        Logo
      </chakra.label>
      <Flex gap="12px" align="center">
        {logo && (
          <Box asChild maxH="72px" maxW="120px" borderRadius="2px">
            <img src={`/media/${brand.slug}/${logo}/thumb`} alt={`Logo of ${brand.name}`} />
          </Box>
        )}
        <chakra.input id={id} type="file" accept="image/*" onChange={choose} fontSize="12px" minW="0" maxW="180px" />
        {logo && (
          <Button kind="quiet" aria-label="Take out the logo" onClick={() => change(null)}>
            ✕
          </Button>
        )}
      </Flex>
      {(error ?? form.problem) && (
        <Box role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error ?? form.problem?.message}
        </Box>
      )}
    </Box>
  );
}
