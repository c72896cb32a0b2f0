import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { api, got } from "@/api/client";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { say } from "@/ui/notices";
import { Tick } from "@/ui/Tick";
import { useForm } from "@/ui/useForm";
import { ZoneField } from "@/ui/ZoneField";

const INKS = ["epazote", "maize", "anil", "pimenton"];

type Values = { name: string; zone: string; ink: string; needs_signoff: boolean };
type FormProps = { start: Values; button: string; send: (values: Values) => Promise<unknown>; signoff: boolean };

/** Name, zone, ink, and whether somebody signs off. */
function BasicsForm({ start, button, send, signoff }: FormProps) {
  const form = useForm();
  const [values, setValues] = useState(start);
  const set = (more: Partial<Values>) => setValues((v) => ({ ...v, ...more }));
  function submit(event: FormEvent) {
    event.preventDefault();
    void form.send(() => send(values));
  }
  return (
    <chakra.form onSubmit={submit} maxW="460px">
      <Field
        label="Name"
        value={values.name}
        onChange={(e) => set({ name: e.currentTarget.value })}
        error={form.at("/name")}
        maxLength={120}
        autoFocus={!start.name}
      />
      <ZoneField
        label="Time zone: every time of the brand is meant in it"
        value={values.zone}
        change={(zone) => set({ zone })}
        error={form.at("/zone")}
      />
      <Box asChild mb="14px">
        <fieldset>
          <chakra.legend fontWeight="600" fontSize="13px">
            Ink of its block
          </chakra.legend>
          <Flex gap="14px" flexWrap="wrap">
            {INKS.map((ink) => (
              <Tick key={ink} kind="radio" name="ink" checked={values.ink === ink} onChange={() => set({ ink })}>
                <Flex as="span" gap="6px" align="center">
                  <BrandBlock ink={ink} name={values.name || "M"} size={20} /> {ink}
                </Flex>
              </Tick>
            ))}
          </Flex>
        </fieldset>
      </Box>
      {signoff && (
        <Box mb="12px">
          <Tick checked={values.needs_signoff} onChange={(e) => set({ needs_signoff: e.target.checked })}>
            Somebody signs off before anything goes out
          </Tick>
        </Box>
      )}
      <Button kind={start.name ? "plain" : "main"} type="submit" disabled={form.busy}>
        {button}
      </Button>
      {form.loose("/name", "/zone", "/ink") && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.loose("/name", "/zone", "/ink")}
        </Box>
      )}
    </chakra.form>
  );
}

/** The brand's basics, folded away until they are to be changed. */
export function BrandBasics() {
  const { brand, may } = useHere();
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  async function send(body: Values) {
    await got(api.PATCH("/api/brands/{brand}", { params: { path: { brand: brand.slug } }, body }));
    await queries.invalidateQueries();
    say(`${body.name} is kept.`);
    setOpen(false);
  }
  return (
    <Box as="section" mb="18px" aria-label="Name and zone">
      <Flex gap="14px" align="center" flexWrap="wrap">
        <BrandBlock ink={brand.ink} name={brand.name} size={32} />
        <Box flex="1" minW="220px">
          <b>{brand.name}</b>
          <Box color="faded" fontSize="13px">
            {brand.zone} · {brand.needs_signoff ? "somebody signs off" : "no sign-off needed"}
          </Box>
        </Box>
        {may("manage_people") && (
          <Button onClick={() => setOpen(!open)}>{open ? "Leave it as it is" : "Change name, zone, sign-off"}</Button>
        )}
      </Flex>
      {open && (
        <Box mt="14px">
          <BasicsForm
            start={{ name: brand.name, zone: brand.zone, ink: brand.ink, needs_signoff: brand.needs_signoff }}
            button="Keep"
            send={send}
            signoff
          />
        </Box>
      )}
    </Box>
  );
}

/** Make a brand: the four things it needs, and then on to its profiles. */
export function NewBrandPage() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  async function send(body: Values) {
    const made = await got(api.POST("/api/brands", { body }));
    await queries.invalidateQueries({ queryKey: ["me"] });
    say(`${body.name} is there. Connect its profiles; the brand sheet can wait.`);
    await navigate({ to: "/$brand/profiles", params: { brand: made.slug }, search: {} });
  }
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="4px">
        New brand
      </Box>
      <Box color="faded" mb="18px">
        Its profiles come next. All else can wait.
      </Box>
      <BasicsForm
        start={{
          name: "",
          zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          ink: "epazote",
          needs_signoff: false,
        }}
        button="Make the brand"
        send={send}
        signoff={false}
      />
    </Box>
  );
}
