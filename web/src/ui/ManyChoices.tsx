import { Box, Combobox, chakra, createListCollection, Popover, Portal } from "@chakra-ui/react";
import { type ReactNode, useMemo, useState } from "react";
import { OfferRow } from "./ComboboxParts";
import { Input } from "./Field";

export type Choice<Value = string> = { value: Value; words: string; mark?: ReactNode };
/** One that can't be chosen says why. */
export type Offer = Choice & { refused?: string };
type Props = { label: string; choices: Offer[]; chosen: string[]; toggle: (value: string) => void; close: () => void };

/** More than so many choices are found by typing. */
export const MANY = 30;
/** Of those that fit so many are shown. */
const SHOWN = 60;

const CARD = {
  background: "card",
  color: "ink",
  borderWidth: "1px",
  borderColor: "ink",
  boxShadow: "6px 6px 0 color-mix(in srgb, var(--m-colors-ink) 12%, transparent)",
  width: "320px",
  maxWidth: "94vw",
  outline: "none",
  zIndex: 30,
};
type FinderProps = Omit<Props, "close"> & { trigger: ReactNode; end?: boolean };

/** A button that opens a finder of many choices, under its beginning or its `end`. */
export function ChoiceFinder({ trigger, end, ...rest }: FinderProps) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(change) => setOpen(change.open)}
      positioning={{ placement: end ? "bottom-end" : "bottom-start" }}
      lazyMount
      unmountOnExit
    >
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content css={CARD} aria-label={rest.label}>
            <ManyChoices {...rest} close={() => setOpen(false)} />
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

/** Choices by the hundred: found by typing a part of their name, what is chosen first, each chosen or left one after another. */
function ManyChoices({ label, choices, chosen, toggle, close }: Props) {
  const [search, setSearch] = useState("");
  // What was chosen when it opened stands first, and stays there while one chooses.
  const [first] = useState(() => new Set(chosen));
  const fitting = useMemo(() => fittingChoices(choices, search, first), [choices, search, first]);
  const shown = useMemo(() => fitting.slice(0, SHOWN), [fitting]);
  const collection = useMemo(
    () =>
      createListCollection({
        items: shown,
        itemToValue: (one) => one.value,
        itemToString: (one) => one.words,
        isItemDisabled: (one) => Boolean(one.refused) && !chosen.includes(one.value),
      }),
    [shown, chosen],
  );
  return (
    <Combobox.Root
      multiple
      open
      collection={collection}
      value={chosen}
      inputValue={search}
      onInputValueChange={(typed) => typed.reason === "input-change" && setSearch(typed.inputValue)}
      onValueChange={({ value }) => {
        const changed = [
          ...value.filter((one) => !chosen.includes(one)),
          ...chosen.filter((one) => !value.includes(one)),
        ];
        for (const one of changed) if (shown.some((choice) => choice.value === one)) toggle(one);
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
              <chakra.span w="14px" flex="none" aria-hidden>
                {chosen.includes(one.value) ? "✓" : ""}
              </chakra.span>
              {one.mark}
              <Box as="span" overflowWrap="anywhere">
                {one.words}
              </Box>
              {one.refused && <chakra.span color="pimenton">{one.refused}</chakra.span>}
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

/** Those of which what was typed is a part, word by word in any order; `first` before the others, else as they were. */
export function fittingChoices<One extends Choice<unknown>>(
  choices: One[],
  typed: string,
  first: ReadonlySet<One["value"]>,
): One[] {
  const words = typed.trim().toLowerCase().split(/\s+/);
  const fit = choices.filter((one) => words.every((word) => one.words.toLowerCase().includes(word)));
  return [...fit.filter((one) => first.has(one.value)), ...fit.filter((one) => !first.has(one.value))];
}
