import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Network } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createManualProfile } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useNetworks } from "./queries";
import { SheetLoader } from "./SheetLoader";

/** A profile that a person publishes to: of a network that lets no program, or of any place at all. */
export function ByHandPanel({ close }: { close: () => void }) {
  const { brand } = useBrandContext();
  const networks = useNetworks();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [values, setValues] = useState({ name: "", handle: "", network: "", kind: "", url: "" });
  const set = (more: Partial<typeof values>) => setValues((v) => ({ ...v, ...more }));
  const plain = [...networks.values()].find((n) => n.plain);
  const offered = [...networks.values()].filter((n) => n !== plain);
  const network = networks.get(values.network) ?? plain;

  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { ...values, kind: values.kind || handKinds(network)[0]?.kind || "free" };
    const done = await form.send(() => createManualProfile(brand.slug, body));
    if (!done) return;
    await changed("profile");
    toast(`${values.name} is added. When something is due, the person in charge is told.`);
    close();
  }
  return (
    <SidePanel title="Add a profile by hand" open close={close}>
      <Box color="faded" mb="14px">
        Plan for it as for any other. At its time the person in charge is told, with the text to copy and the media to
        download, and says when it is done.
      </Box>
      <chakra.form onSubmit={send}>
        <Field
          label="Name"
          value={values.name}
          onChange={(e) => set({ name: e.currentTarget.value })}
          error={form.at("/name")}
          autoFocus
        />
        <Select
          label="Network"
          value={values.network}
          onChange={(e) => set({ network: e.currentTarget.value, kind: "" })}
          error={form.at("/network")}
        >
          <option value="">A place without a rule sheet</option>
          {offered.map((n) => (
            <option key={n.network} value={n.network}>
              {n.name}
              {n.is_custom ? " (your sheet)" : ""}
            </option>
          ))}
        </Select>
        {handKinds(network).length > 1 && (
          <Select
            label="Kind"
            value={values.kind}
            onChange={(e) => set({ kind: e.currentTarget.value })}
            error={form.at("/kind")}
          >
            {handKinds(network).map((kind) => (
              <option key={kind.kind} value={kind.kind}>
                {kind.name}
              </option>
            ))}
          </Select>
        )}
        <Field
          label="Handle there (may stay empty)"
          value={values.handle}
          onChange={(e) => set({ handle: e.currentTarget.value })}
          error={form.at("/handle")}
        />
        <Field
          label="Where one publishes: an address to open (may stay empty)"
          placeholder="https://"
          value={values.url}
          onChange={(e) => set({ url: e.currentTarget.value })}
          error={form.at("/url")}
        />
        <Button kind="main" type="submit" disabled={form.busy}>
          Add it
        </Button>
        {form.loose("/name", "/network", "/kind", "/handle", "/url") && (
          <Box role="alert" color="pimenton" mt="8px">
            {form.loose("/name")}
          </Box>
        )}
      </chakra.form>
      <SheetLoader loaded={(sheet) => set({ network: sheet.network, kind: "" })} />
    </SidePanel>
  );
}

/** By hand goes for every kind of profile; those that no program may post to come first. */
function handKinds(network: Network | undefined): Network["kinds"] {
  return [...(network?.kinds ?? [])].sort((a, b) => Number(a.direct) - Number(b.direct));
}
