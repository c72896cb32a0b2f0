import { Box, Flex } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { Select } from "@/ui/Select";
import type { Inspection } from "./queries";

type Map = NonNullable<Schemas["CatalogueIn"]["mapping"]>;
type Props = {
  looked: Inspection;
  mapping: Map;
  set: (mapping: Map) => void;
  at: (pointer: string) => string | undefined;
  file: string;
};
const FIELDS = [
  ["key", "Key (needed)"],
  ["title", "Title (needed)"],
  ["price", "Price"],
  ["currency", "Currency"],
  ["standing", "Standing"],
  ["open_day", "Open day"],
  ["link", "Link"],
  ["picture", "Picture"],
  ["about", "About"],
] as const;

/** Which column says what, and the first rows as they would be understood. */
export function Mapping({ looked, mapping, set, at, file }: Props) {
  const values = mapping as Record<string, string>;
  return (
    <Box as="fieldset" borderTopWidth="1px" borderColor="rule" pt="10px" mb="12px">
      <Box as="legend" fontWeight="600" fontSize="13px">
        {looked.count} things {file && `in ${file}`}. Which column says what:
      </Box>
      <Box display="grid" gridTemplateColumns={{ base: "1fr 1fr", md: "1fr 1fr 1fr" }} columnGap="16px">
        {FIELDS.map(([field, words]) => (
          <Select
            key={field}
            label={words}
            value={values[field] ?? ""}
            error={at(`/mapping/${field}`)}
            onChange={(e) => {
              const { [field]: _, ...rest } = values;
              const column = e.currentTarget.value;
              set((column ? { ...rest, [field]: column } : rest) as Map);
            }}
          >
            <option value="">none</option>
            {looked.columns.map((column) => (
              <option key={column}>{column}</option>
            ))}
          </Select>
        ))}
      </Box>
      {looked.rows.map((row, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows that aren't understood may have no key
        <Flex key={n} gap="12px" py="5px" borderTopWidth="1px" borderColor="rule" flexWrap="wrap" fontSize="13px">
          <Box w="90px" color="faded" overflowWrap="anywhere">
            {row.key}
          </Box>
          <Box flex="1" minW="160px" overflowWrap="anywhere">
            {row.title}
          </Box>
          <Box w="80px" textAlign="right">
            {row.price}
          </Box>
          <Box w="80px">{row.availability === "free" ? "" : row.availability}</Box>
          {row.faults.length > 0 && (
            <Box w="100%" color="maizeInk">
              {row.faults.join(" ")}
            </Box>
          )}
        </Flex>
      ))}
    </Box>
  );
}
