import { Box, Flex } from "@chakra-ui/react";
import { memo, useState } from "react";
import type { Column, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import { Picker } from "@/ui/Select";
import { type BenchColumn, withMaster, withOverrides } from "../draft";
import { CardPanel } from "../media/CardPanel";
import { usePlace } from "../place";
import { useSayings } from "../queries";

type Card = Schemas["CardIO"];
type Said = { link?: string | null; card?: Card | null; link_tags?: number | null };
type Props = {
  label: string;
  link: string;
  /** The preset by which links are tagged; 0: none. */
  tags: number;
  card: Card | null;
  inherited?: boolean;
  column?: BenchColumn;
  check?: Column;
  error?: string;
};

/** The post's link, the tags that are put on it, and the card that stands for it. */
export const LinkCell = memo(function LinkCell(props: Props) {
  const { label, link, tags, card, inherited, column, check, error } = props;
  const { brand } = useBrandContext();
  const { change } = usePlace();
  const presets = useSayings(brand.slug).data?.link_tags ?? [];
  const [open, setOpen] = useState(false);
  const set = (more: Said) =>
    change((d) => (column ? withOverrides(d, column.key, more) : withMaster(d, more as object)));
  const goes = check?.proof.link ?? "";
  return (
    <>
      <Input
        aria-label={inherited ? `${label}, inherited from the master` : label}
        aria-invalid={error ? true : undefined}
        inputMode="url"
        placeholder={column ? "Inherits the master" : "https://"}
        value={link}
        onChange={(e) => set({ link: e.currentTarget.value })}
        color={inherited ? "faded" : "ink"}
        fontStyle={inherited ? "italic" : undefined}
        fontSize="13px"
        minH="30px"
        maxLength={2000}
      />
      {error && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {error}
        </Box>
      )}
      {link.trim() !== "" && (
        <Flex mt="6px" gap="10px" align="center" flexWrap="wrap" fontSize="12px">
          {(presets.length > 0 || tags > 0) && (
            <Flex gap="6px" align="center" color="faded">
              Tags
              <Picker
                aria-label={`Tags on links, ${column ? column.key : "master"}`}
                value={tags}
                onChange={(e) => set({ link_tags: Number(e.currentTarget.value) })}
                fontSize="12px"
                minH="26px"
                maxW="150px"
              >
                <option value={0}>none</option>
                {presets.map((preset) => (
                  <option key={preset.id} value={preset.id}>
                    {preset.name}
                  </option>
                ))}
              </Picker>
            </Flex>
          )}
          <Button
            kind="link"
            fontSize="12px"
            aria-label={`${card ? "Change the card" : "Read its card"}, ${column ? column.key : "master"}`}
            onClick={() => setOpen(true)}
          >
            {card ? "Change the card" : "Read its card"}
          </Button>
        </Flex>
      )}
      {goes && goes !== link && (
        <Box
          mt="4px"
          fontSize="11.5px"
          lineHeight="15px"
          color="faded"
          overflowWrap="anywhere"
          data-testid="final-address"
        >
          goes out as {goes}
        </Box>
      )}
      {open && <CardPanel link={link} card={card} keep={(kept) => set({ card: kept })} close={() => setOpen(false)} />}
    </>
  );
});
