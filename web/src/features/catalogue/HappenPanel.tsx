import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { api, got, type Schemas } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { type Happened, type Thing, useCatalogueDeed } from "./queries";

const EVENTS: [Happened, string][] = [
  ["new", "New in"],
  ["lowered", "Price lowered"],
  ["reserved", "Reserved"],
  ["sold", "Sold"],
  ["open_day", "Open day"],
  ["coming", "Coming soon"],
];
type Props = { thing: Thing; rules: Schemas["OwnRuleIO"][]; close: () => void };

/** Say by hand what happened to a thing; relays carry it as any other event. */
export function HappenPanel({ thing, rules, close }: Props) {
  const { brand } = useHere();
  const form = useForm();
  const deed = useCatalogueDeed(brand.slug);
  const [event, setEvent] = useState<string>("lowered");
  const [price, setPrice] = useState("");
  const [day, setDay] = useState("");
  const own = event.startsWith("own:");
  async function send(submitted: FormEvent) {
    submitted.preventDefault();
    const body = {
      happened: (own ? "own" : event) as Happened,
      name: own ? event.slice(4) : "",
      price: event === "lowered" && price ? price : null,
      open_day: event === "open_day" && day ? day : null,
    };
    const path = { brand: brand.slug, id: thing.id };
    if (!(await form.send(() => got(api.POST("/api/brands/{brand}/things/{id}/happened", { params: { path }, body })))))
      return;
    await deed(async () => undefined, "Noted. Relays that listen to it carry it within a minute.");
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
