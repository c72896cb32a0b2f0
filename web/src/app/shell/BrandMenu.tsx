import { Box, Combobox, chakra, createListCollection, Popover, Portal } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import type { Me } from "@/api/client";
import { useShortcuts } from "@/app/shortcuts";
import { OFFERED, OfferRow } from "@/ui/ComboboxParts";
import { Input } from "@/ui/Field";
import { Kbd } from "@/ui/Kbd";
import { BrandBlock } from "./BrandBlock";

type Here = { slug: string; name: string; ink: string; capabilities: string[] };
type Row = { key: string; words: string; ink?: string; go: () => void };

/** On a phone the name is heard, not seen. */
const HIDDEN = {
  position: "absolute",
  width: "1px",
  height: "1px",
  overflow: "hidden",
  clipPath: "inset(50%)",
} as const;

/** The brand's own initial block and name; behind it, the brand's pages, the other brands, and a search over both. */
export function BrandMenu({ brand, me }: { brand: Here | null; me: Me }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const keys = useMemo(() => ({ b: () => setOpen(true) }), []);
  useShortcuts(keys);

  const pages: Row[] = brand
    ? [
        {
          key: "profiles",
          words: "Profiles",
          go: () => navigate({ to: "/$brand/profiles", params: { brand: brand.slug }, search: {} }),
        },
        { key: "people", words: "People", go: () => navigate({ to: "/$brand/people", params: { brand: brand.slug } }) },
        {
          key: "sign-rules",
          words: "Sign-off",
          go: () => navigate({ to: "/$brand/sign-rules", params: { brand: brand.slug } }),
        },
        {
          key: "trouble",
          words: "Trouble",
          go: () => navigate({ to: "/$brand/trouble", params: { brand: brand.slug }, search: {} }),
        },
        {
          key: "history",
          words: "History",
          go: () => navigate({ to: "/$brand/history", params: { brand: brand.slug }, search: {} }),
        },
        {
          key: "sheet",
          words: "Brand sheet",
          go: () => navigate({ to: "/$brand/sheet", params: { brand: brand.slug } }),
        },
        ...(brand.capabilities.includes("manage_profiles")
          ? [
              {
                key: "first-steps",
                words: "First steps",
                go: () => navigate({ to: "/$brand/first-steps", params: { brand: brand.slug }, search: {} }),
              },
            ]
          : []),
      ]
    : [];
  const brands: Row[] = me.brands
    .filter((b) => b.slug !== brand?.slug)
    .map((b) => ({
      key: b.slug,
      words: b.name,
      ink: b.ink,
      go: () => navigate({ to: "/$brand/calendar", params: { brand: b.slug }, search: {} }),
    }));
  const more: Row[] = [
    ...(me.brands.length > 1 && brand
      ? [{ key: "all", words: "All brands", go: () => navigate({ to: "/all", search: {} }) }]
      : []),
    ...(me.may_make_brands ? [{ key: "new", words: "New brand", go: () => navigate({ to: "/new-brand" }) }] : []),
  ];
  const wanted = search.trim().toLowerCase();
  const rows = [...pages, ...brands, ...more].filter((row) => row.words.toLowerCase().includes(wanted));

  const collection = createListCollection({
    items: rows,
    itemToValue: (row) => row.key,
    itemToString: (row) => row.words,
  });

  function choose(key: string | undefined) {
    const row = rows.find((one) => one.key === key);
    if (!row) return;
    setOpen(false);
    setSearch("");
    row.go();
  }
  return (
    <Popover.Root
      lazyMount
      unmountOnExit
      open={open}
      onOpenChange={(change) => setOpen(change.open)}
      positioning={{ placement: "bottom-start" }}
    >
      <Popover.Trigger asChild>
        <chakra.button
          type="button"
          display="flex"
          alignItems="center"
          gap="8px"
          fontWeight="600"
          cursor="pointer"
          pl={{ md: "18px" }}
          borderLeftWidth={{ md: "1px" }}
          borderColor="rule"
          minH="28px"
        >
          {brand ? <BrandBlock ink={brand.ink} name={brand.name} /> : <BrandBlock ink="ink" name="∗" />}
          <chakra.span whiteSpace="nowrap" css={{ "@media (max-width: 479px)": HIDDEN }}>
            {brand?.name ?? "All brands"}
          </chakra.span>
          <chakra.span color="faded" aria-hidden>
            ▾
          </chakra.span>
        </chakra.button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content css={{ ...OFFERED, width: "300px" }} aria-label="Brands and pages">
            <Combobox.Root
              collection={collection}
              open
              value={[]}
              inputValue={search}
              onInputValueChange={(typed) => typed.reason === "input-change" && setSearch(typed.inputValue)}
              onValueChange={(chosen) => choose(chosen.value[0])}
              inputBehavior="autohighlight"
              selectionBehavior="clear"
              defaultHighlightedValue={rows[0]?.key}
              disableLayer
            >
              <Box p="8px" borderBottomWidth="1px" borderColor="rule">
                <Combobox.Input asChild>
                  <Input
                    aria-label="Find a brand or a page"
                    placeholder="Find a brand or a page"
                    autoFocus
                    onKeyDown={(event) => event.key === "Escape" && setOpen(false)}
                  />
                </Combobox.Input>
              </Box>
              <Combobox.Content unstyled asChild>
                <Box aria-label="Brands and pages" maxH="380px" overflowY="auto" outline="none">
                  {rows.map((row, n) => (
                    <OfferRow
                      key={row.key}
                      item={row}
                      minH="38px"
                      px="12px"
                      borderTopWidth={n > 0 && row.ink && !rows[n - 1]?.ink ? "1px" : undefined}
                      borderColor="rule"
                    >
                      {row.ink && <BrandBlock ink={row.ink} name={row.words} size={22} />}
                      {row.words}
                    </OfferRow>
                  ))}
                </Box>
              </Combobox.Content>
              {rows.length === 0 && (
                <Box p="12px" color="faded">
                  Nothing by that name.
                </Box>
              )}
            </Combobox.Root>
            <Box p="6px 12px" fontSize="11px" color="faded" borderTopWidth="1px" borderColor="rule">
              <Kbd>b</Kbd> opens this
            </Box>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}
