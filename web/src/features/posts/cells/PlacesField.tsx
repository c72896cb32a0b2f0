import { Box, Combobox, chakra, createListCollection, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { postQueries } from "@/data/posts";
import { OfferRow, Offers } from "@/ui/ComboboxParts";
import { Input } from "@/ui/Field";

type Props = { id: string; label: string; value: string; change: (value: string) => void };

/** Countries and regions, searched by name or code, kept as ISO 3166 codes. */
export function PlacesField({ id, label, value, change }: Props) {
  const [words, setWords] = useState("");
  const codes = value.split(/[,;\s]+/).filter(Boolean);
  const named = useQuery({ ...postQueries.places({ codes: value }), enabled: codes.length > 0 }).data;
  const found =
    useQuery({ ...postQueries.places({ words }), enabled: words.trim().length > 1 }).data?.filter(
      (place) => !codes.includes(place.code),
    ) ?? [];
  const list = words.trim().length > 1 ? found.slice(0, 8) : [];

  const collection = createListCollection({
    items: list,
    itemToValue: (place) => place.code,
    itemToString: (place) => place.name,
  });
  return (
    <Box>
      <Flex gap="4px" flexWrap="wrap" mb={codes.length ? "4px" : "0"}>
        {codes.map((code) => (
          <Flex key={code} align="center" bg="wash" borderRadius="3px" pl="6px" fontSize="12px">
            {named?.find((place) => place.code === code)?.name ?? code}
            <chakra.button
              type="button"
              aria-label={`Take ${code} out of ${label}`}
              w="24px"
              h="24px"
              onClick={() => change(codes.filter((c) => c !== code).join(", "))}
            >
              ✕
            </chakra.button>
          </Flex>
        ))}
      </Flex>
      <Combobox.Root
        collection={collection}
        // Chosen ones stand above: what is typed begins anew after each.
        value={[]}
        inputValue={words}
        onInputValueChange={(typed) => setWords(typed.reason === "item-select" ? "" : typed.inputValue)}
        onValueChange={(chosen) => chosen.value[0] && change([...codes, chosen.value[0]].join(", "))}
        inputBehavior="autohighlight"
        selectionBehavior="clear"
        ids={{ input: id }}
        positioning={{ sameWidth: true }}
      >
        <Combobox.Control>
          <Combobox.Input asChild>
            <Input
              aria-label={label}
              autoComplete="off"
              placeholder={codes.length ? "another" : "everywhere"}
              fontSize="13px"
              minH="30px"
              onKeyDown={(event) => {
                if (event.key === "Backspace" && !words && codes.length) change(codes.slice(0, -1).join(", "));
              }}
            />
          </Combobox.Input>
        </Combobox.Control>
        {list.length > 0 && (
          <Offers label={`Places found for ${label}`}>
            {list.map((place) => (
              <OfferRow key={place.code} item={place}>
                {place.name}{" "}
                <Box as="span" color="faded">
                  {place.code}
                </Box>
              </OfferRow>
            ))}
          </Offers>
        )}
      </Combobox.Root>
    </Box>
  );
}
