import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { invite } from "@/data/people";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { LinkOnce } from "@/ui/LinkOnce";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { CAPABILITY_LABELS } from "./capabilities";

/** Invite by e-mail: a role to start from, adjusted for this person. */
export function InvitePanel({ people, close }: { people: Schemas["PeopleOut"]; close: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const start = (role: string) => people.roles.find((r) => r.role === role)?.capabilities ?? [];
  const [email, setEmail] = useState("");
  const [role, setRole] = useState("author");
  const [may, setMay] = useState(start("author"));
  const [link, setLink] = useState("");

  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { email, role, capabilities: may };
    let address = "";
    const fine = await form.send(async () => {
      address = (await invite(brand.slug, body)).address;
    });
    if (!fine) return;
    await changed("people");
    // Where no mail goes out, the link is handed over by hand.
    if (address) return setLink(address);
    toast(`${email} is invited by e-mail.`);
    close();
  }
  if (link)
    return (
      <SidePanel title={`Invite to ${brand.name}`} open close={close}>
        <Box mb="12px">This installation sends no mail. Hand the link over yourself; it is good for 14 days.</Box>
        <LinkOnce called={email} address={link} />
        <Button onClick={close}>Close</Button>
      </SidePanel>
    );
  return (
    <SidePanel title={`Invite to ${brand.name}`} open close={close}>
      <chakra.form onSubmit={send}>
        <Field
          label="E-mail address"
          type="email"
          required
          value={email}
          onChange={(e) => setEmail(e.currentTarget.value)}
          error={form.at("/email")}
          autoFocus
        />
        <Select
          label="Role"
          value={role}
          onChange={(e) => {
            setRole(e.currentTarget.value);
            setMay(start(e.currentTarget.value));
          }}
          error={form.at("/role")}
        >
          {people.roles.map((r) => (
            <option key={r.role} value={r.role}>
              {r.role}
            </option>
          ))}
        </Select>
        <Box as="fieldset" mb="14px">
          <Box as="legend" fontWeight="600" fontSize="13px">
            May
          </Box>
          {people.capabilities.map((name) => (
            <Tick
              key={name}
              checked={may.includes(name)}
              disabled={!people.gives.includes(name)}
              onChange={(e) => setMay(e.target.checked ? [...may, name] : may.filter((c) => c !== name))}
            >
              {CAPABILITY_LABELS[name] ?? name}
            </Tick>
          ))}
        </Box>
        <Button kind="main" type="submit" disabled={form.busy}>
          Send the invitation
        </Button>
        {form.loose("/email", "/role") && (
          <Box role="alert" color="pimenton" mt="8px">
            {form.loose("/email", "/role")}
          </Box>
        )}
      </chakra.form>
    </SidePanel>
  );
}
