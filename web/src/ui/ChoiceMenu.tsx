import { Box, Combobox, chakra, createListCollection, Menu, Popover, Portal } from "@chakra-ui/react";
import { type ReactNode, useMemo, useState } from "react";
import { OFFERED, OfferRow } from "./ComboboxParts";
import { type Choice, fittingChoices, MANY, SHOWN } from "./choices";
import { Input } from "./Field";
import { MenuList } from "./MenuParts";

/** One that can't be chosen says why; `ends`: a rule lies under it. */
export type Offer = Choice & { refused?: string; ends?: boolean };
type ListProps = { label: string; choices: Offer[]; chosen: string[]; toggle: (value: string) => void };
type Props = ListProps & { trigger: ReactNode; end?: boolean; empty?: string };

const Row = chakra(Menu.CheckboxItem, {
  base: {
    display: "flex",
    alignItems: "center",
    gap: "10px",
    px: "12px",
    py: "7px",
    cursor: "pointer",
    "&[data-highlighted]": { bg: "wash" },
    "&[data-disabled]": { opacity: 0.6, cursor: "default" },
  },
});

/** Several of these are chosen or left, one after another, behind a button: in a menu, or where there are many found by typing. It lies
 * under the button's beginning, or its `end`. */
export function ChoiceMenu({ trigger, end, empty, ...list }: Props) {
  const { label, choices, chosen, toggle } = list;
  const [open, setOpen] = useState(false);
  const positioning = { placement: end ? ("bottom-end" as const) : ("bottom-start" as const) };
  if (choices.length > MANY)
    return (
      <Popover.Root
        open={open}
        onOpenChange={(change) => setOpen(change.open)}
        positioning={positioning}
        lazyMount
        unmountOnExit
      >
        <Popover.Trigger asChild>{trigger}</Popover.Trigger>
        <Portal>
          <Popover.Positioner>
            <Popover.Content css={{ ...OFFERED, width: "320px", maxWidth: "94vw" }} aria-label={label}>
              <Finder {...list} close={() => setOpen(false)} />
            </Popover.Content>
          </Popover.Positioner>
        </Portal>
      </Popover.Root>
    );
  return (
    <Menu.Root closeOnSelect={false} positioning={positioning} lazyMount unmountOnExit>
      <Menu.Trigger asChild>{trigger}</Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList maxH="min(460px, 65vh)" overflowY="auto">
            {choices.length === 0 && <Box p="12px">{empty}</Box>}
            {choices.map((one) => {
              const on = chosen.includes(one.value);
              return (
                <Row
                  key={one.value}
                  value={one.value}
                  checked={on}
                  onCheckedChange={() => toggle(one.value)}
                  disabled={!on && one.refused !== undefined}
                  {...(one.ends ? { borderBottomWidth: "1px", borderColor: "ink" } : {})}
                >
                  <Words one={one} on={on} />
                </Row>
              );
            })}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}

function Words({ one, on }: { one: Offer; on: boolean }) {
  return (
    <>
      <chakra.span w="14px" flex="none" aria-hidden>
        {on ? "✓" : ""}
      </chakra.span>
      {one.mark}
      <Box as="span" overflowWrap="anywhere">
        {one.words}
      </Box>
      {one.more && <chakra.span color="faded">{` ${one.more}`}</chakra.span>}
      {one.refused && <chakra.span color="pimenton">{` ${one.refused}`}</chakra.span>}
    </>
  );
}

function Finder({ label, choices, chosen, toggle, close }: ListProps & { close: () => void }) {
  const [search, setSearch] = useState("");
  // What was chosen when it opened stands first, and stays there while one chooses.
  const [first] = useState(() => new Set(chosen));
  const fitting = useMemo(() => fittingChoices(choices, search, first), [choices, search, first]);
  const shown = fitting.slice(0, SHOWN);
  const collection = createListCollection({
    items: shown,
    itemToValue: (one) => one.value,
    itemToString: (one) => one.words,
    isItemDisabled: (one) => one.refused !== undefined && !chosen.includes(one.value),
  });
  return (
    <Combobox.Root
      multiple
      open
      collection={collection}
      value={chosen}
      inputValue={search}
      onInputValueChange={(typed) => typed.reason === "input-change" && setSearch(typed.inputValue)}
      onValueChange={({ value }) => {
        const changed = shown.find((one) => value.includes(one.value) !== chosen.includes(one.value));
        if (changed) toggle(changed.value);
      }}
      inputBehavior="autohighlight"
      selectionBehavior="preserve"
      closeOnSelect={false}
      disableLayer
    >
      <Box p="8px" borderBottomWidth="1px" borderColor="rule">
        <Combobox.Input asChild>
          <Input
            aria-label={`Find: ${label}`}
            placeholder="Type a part of the name"
            autoFocus
            onKeyDown={(event) => event.key === "Escape" && close()}
          />
        </Combobox.Input>
      </Box>
      <Combobox.Content unstyled asChild>
        <Box aria-label={label} maxH="min(360px, 50vh)" overflowY="auto" outline="none">
          {shown.map((one) => (
            <OfferRow key={one.value} item={one} px="12px">
              <Words one={one} on={chosen.includes(one.value)} />
            </OfferRow>
          ))}
        </Box>
      </Combobox.Content>
      {fitting.length !== shown.length && (
        <Box p="8px 12px" fontSize="12px" color="faded" borderTopWidth="1px" borderColor="rule">
          {shown.length} of {fitting.length}: type more to find the others.
        </Box>
      )}
      {fitting.length === 0 && (
        <Box p="12px" color="faded">
          Nothing by that name.
        </Box>
      )}
    </Combobox.Root>
  );
}
