import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { postQueries } from "@/data/posts";
import { Input } from "@/ui/Field";

type Props = { id: string; label: string; value: string; change: (value: string) => void };

/** Countries and regions, searched by name or code, kept as ISO 3166 codes. */
export function PlacesField({ id, label, value, change }: Props) {
  const [words, setWords] = useState("");
  const [at, setAt] = useState(0);
  const codes = value.split(/[,;\s]+/).filter(Boolean);
  const named = useQuery({ ...postQueries.places({ codes: value }), enabled: codes.length > 0 }).data;
  const found =
    useQuery({ ...postQueries.places({ words }), enabled: words.trim().length > 1 }).data?.filter(
      (place) => !codes.includes(place.code),
    ) ?? [];
  const list = words.trim().length > 1 ? found.slice(0, 8) : [];

  function take(code: string) {
    change([...codes, code].join(", "));
    setWords("");
    setAt(0);
  }
  function keyDown(event: KeyboardEvent) {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setAt((at + (event.key === "ArrowDown" ? 1 : list.length - 1)) % Math.max(list.length, 1));
    } else if (event.key === "Enter" && list[at]) {
      event.preventDefault();
      take(list[at].code);
    } else if (event.key === "Backspace" && !words && codes.length) change(codes.slice(0, -1).join(", "));
  }
  return (
    <Box position="relative">
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
      <Input
        id={id}
        aria-label={label}
        role="combobox"
        aria-expanded={list.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={list[at] ? `${id}-${list[at].code}` : undefined}
        autoComplete="off"
        placeholder={codes.length ? "another" : "everywhere"}
        fontSize="13px"
        minH="30px"
        value={words}
        onChange={(e) => {
          setWords(e.currentTarget.value);
          setAt(0);
        }}
        onKeyDown={keyDown}
      />
      <Box
        id={`${id}-list`}
        role="listbox"
        aria-label={`Places found for ${label}`}
        hidden={list.length === 0}
        position="absolute"
        zIndex="10"
        bg="card"
        borderWidth="1px"
        borderColor="ink"
        w="100%"
      >
        {list.map((place, n) => (
          <Box
            key={place.code}
            id={`${id}-${place.code}`}
            role="option"
            aria-selected={n === at}
            bg={n === at ? "wash" : undefined}
            px="8px"
            py="4px"
            cursor="pointer"
            onMouseDown={(e) => {
              e.preventDefault();
              take(place.code);
            }}
          >
            {place.name}{" "}
            <Box as="span" color="faded">
              {place.code}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
