import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link, useNavigate } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { useHere } from "@/app/useHere";
import { useChanged, useReadAll } from "@/data/changes";
import { createBrand, updateBrand } from "@/data/people";
import { followZone } from "@/data/posts";
import { useProfileCounts } from "@/features/profiles/queries";
import { ZoneHold } from "@/features/profiles/ZoneHold";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { ZoneField } from "@/ui/ZoneField";

const INKS = ["epazote", "maize", "anil", "pimenton"];

type Values = { name: string; zone: string; ink: string };
type FormProps = {
  start: Values;
  button: string;
  send: (values: Values) => Promise<unknown>;
  /** What is asked when another zone is chosen. */
  moved?: (zone: string) => React.ReactNode;
};

/** Name, zone and ink. */
function BasicsForm({ start, button, send, moved }: FormProps) {
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
      {values.zone !== start.zone && moved?.(values.zone)}
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
  const { brand, may } = useBrandContext();
  const readAll = useReadAll();
  const [open, setOpen] = useState(false);
  const [hold, setHold] = useState<"wall" | "instant">("wall");
  const planned = (useProfileCounts(brand.slug).data ?? [])
    .filter((p) => !p.zone_own)
    .reduce((sum, p) => sum + p.planned, 0);
  async function send(body: Values) {
    await updateBrand(brand.slug, body);
    if (body.zone !== brand.zone) {
      const follow = { profile: null, was: brand.zone, hold };
      await followZone(brand.slug, follow);
    }
    await readAll();
    toast(`${body.name} is kept.`);
    setOpen(false);
  }
  return (
    <Box as="section" mb="18px" aria-label="Name and zone">
      <Flex gap="14px" align="center" flexWrap="wrap">
        <BrandBlock ink={brand.ink} name={brand.name} size={32} />
        <Box flex="1" minW="220px">
          <b>{brand.name}</b>
          <Box color="faded" fontSize="13px">
            {brand.zone} ·{" "}
            <Link to="/$brand/sign-rules" params={{ brand: brand.slug }} style={{ textDecoration: "underline" }}>
              {brand.needs_signoff ? "somebody signs off" : "no sign-off needed"}
            </Link>
          </Box>
        </Box>
        {may("manage_people") && (
          <Button onClick={() => setOpen(!open)}>{open ? "Leave it as it is" : "Change name, zone"}</Button>
        )}
      </Flex>
      {open && (
        <Box mt="14px">
          <BasicsForm
            start={{ name: brand.name, zone: brand.zone, ink: brand.ink }}
            button="Keep"
            send={send}
            moved={(zone) =>
              planned > 0 && <ZoneHold planned={planned} was={brand.zone} zone={zone} hold={hold} set={setHold} />
            }
          />
        </Box>
      )}
    </Box>
  );
}

/** Make a brand: the four things it needs, and then on to its profiles. */
export function NewBrandPage() {
  const changed = useChanged();
  const navigate = useNavigate();
  const here = useHere();
  async function send(body: Values) {
    const from = here();
    const made = await createBrand(body);
    await changed("account");
    toast(`${body.name} is there. All that follows can wait.`);
    if (here() === from) await navigate({ to: "/$brand/first-steps", params: { brand: made.slug }, search: {} });
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
        }}
        button="Make the brand"
        send={send}
      />
    </Box>
  );
}
