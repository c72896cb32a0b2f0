import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { createCatalogueEvent } from "@/data/catalogue";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { type CatalogueItem, type EventKind, useCatalogueAction } from "./queries";

const EVENTS: [EventKind, string][] = [
  ["new", "New in"],
  ["lowered", "Price lowered"],
  ["reserved", "Reserved"],
  ["sold", "Sold"],
  ["open_day", "Open day"],
  ["coming", "Coming soon"],
];
type Props = { thing: CatalogueItem; rules: Schemas["CustomRuleIO"][]; close: () => void };

/** Say by hand what happened to a thing; relays carry it as any other event. */
export function EventPanel({ thing, rules, close }: Props) {
  const { brand } = useBrandContext();
  const form = useForm();
  const act = useCatalogueAction(brand.slug);
  const [event, setEvent] = useState<string>("lowered");
  const [price, setPrice] = useState("");
  const [day, setDay] = useState("");
  const own = event.startsWith("own:");
  async function send(submitted: FormEvent) {
    submitted.preventDefault();
    const body = {
      kind: (own ? "own" : event) as EventKind,
      name: own ? event.slice(4) : "",
      price: event === "lowered" && price ? price : null,
      open_day: event === "open_day" && day ? day : null,
    };
    if (!(await form.send(() => createCatalogueEvent(brand.slug, thing.id, body)))) return;
    await act(async () => undefined, "Noted. Relays that listen to it carry it within a minute.");
    close();
  }
  return (
    <SidePanel title={thing.title} open close={close}>
      <form onSubmit={send}>
        <Select label="What happened" value={event} onChange={(e) => setEvent(e.currentTarget.value)}>
          {EVENTS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
          {rules.map((rule) => (
            <option key={rule.name} value={`own:${rule.name}`}>
              {rule.name}
            </option>
          ))}
        </Select>
        {event === "lowered" && (
          <Field
            label={`New price (now ${thing.price || "none"})`}
            inputMode="decimal"
            value={price}
            onChange={(e) => setPrice(e.currentTarget.value)}
            error={form.at("/price")}
          />
        )}
        {event === "open_day" && (
          <Field
            label="On which day"
            type="date"
            value={day}
            onChange={(e) => setDay(e.currentTarget.value)}
            error={form.at("/open_day")}
          />
        )}
        {form.loose("/price", "/open_day") && (
          <Box role="alert" color="pimenton" mb="10px">
            {form.loose("/price", "/open_day")}
          </Box>
        )}
        <Flex>
          <Button kind="main" type="submit" disabled={form.busy}>
            Note it
          </Button>
        </Flex>
      </form>
    </SidePanel>
  );
}
