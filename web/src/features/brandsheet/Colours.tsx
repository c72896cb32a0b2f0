import { Box, chakra, Flex } from "@chakra-ui/react";
import { Button } from "@/ui/Button";

/** The brand's colours, each with its value written. */
export function Colours({ values, change }: { values: string[]; change: (values: string[]) => void }) {
  return (
    <Box asChild mb="14px">
      <fieldset>
        <chakra.legend fontWeight="600" fontSize="13px" mb="4px">
          Colours
        </chakra.legend>
        <Flex gap="10px" flexWrap="wrap" align="center">
          {values.map((colour, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two colours may be the same while one is chosen
            <Box key={n} textAlign="center" fontSize="11px" lineHeight="14px" fontVariantNumeric="tabular-nums">
              <chakra.input
                type="color"
                aria-label={`Colour ${n + 1}`}
                value={colour}
                onChange={(e) => change(values.map((c, m) => (m === n ? e.currentTarget.value : c)))}
                display="block"
                w="52px"
                h="34px"
                borderWidth="1px"
                borderColor="faded"
                cursor="pointer"
              />
              {colour}
              <Button
                kind="quiet"
                display="block"
                mx="auto"
                minH="24px"
                aria-label={`Take out ${colour}`}
                onClick={() => change(values.filter((_, m) => m !== n))}
              >
                ✕
              </Button>
            </Box>
          ))}
          {values.length < 12 && <Button onClick={() => change([...values, "#888888"])}>Add a colour</Button>}
        </Flex>
      </fieldset>
    </Box>
  );
}
