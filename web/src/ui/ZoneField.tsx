import { Combobox, createListCollection } from "@chakra-ui/react";
import { useMemo } from "react";
import { OfferRow, Offers } from "./ComboboxParts";
import { Input } from "./Field";
import { Labelled } from "./Labelled";

const ZONES = Intl.supportedValuesOf("timeZone");
const AT_ONCE = 50;

type Props = { label: string; value: string; change: (zone: string) => void; empty?: string; error?: string };

/** A time zone by its IANA name, found by typing a part of it. What the list doesn't know may be typed: the server knows. */
export function ZoneField({ label, value, change, empty, error }: Props) {
  const found = useMemo(() => offered(value), [value]);
  const collection = useMemo(() => createListCollection({ items: found }), [found]);
  return (
    <Labelled label={label} error={error}>
      {(told) => (
        <Combobox.Root
          collection={collection}
          inputValue={value}
          value={ZONES.includes(value) ? [value] : []}
          onInputValueChange={(typed) => change(typed.inputValue)}
          allowCustomValue
          ids={{ input: told.id }}
          positioning={{ sameWidth: true }}
        >
          <Combobox.Control>
            <Combobox.Input asChild>
              <Input {...told} placeholder={empty ?? "Europe/Madrid"} autoComplete="off" />
            </Combobox.Input>
          </Combobox.Control>
          {found.length > 0 && found[0] !== value && (
            <Offers label="Zones that fit">
              {found.map((zone) => (
                <OfferRow key={zone} item={zone}>
                  {zone}
                </OfferRow>
              ))}
            </Offers>
          )}
        </Combobox.Root>
      )}
    </Labelled>
  );
}

/** The zones that what was typed is a part of, spelt with or without underscores; where it names one, that alone. */
export function offered(typed: string): string[] {
  const wanted = typed.trim().toLowerCase().replaceAll(" ", "_");
  const named = ZONES.find((zone) => zone.toLowerCase() === wanted);
  if (named) return [named];
  return ZONES.filter((zone) => zone.toLowerCase().includes(wanted)).slice(0, AT_ONCE);
}
