import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Me } from "@/api/client";
import { changePassword } from "@/data/account";
import { useChanged } from "@/data/changes";
import { updateMe } from "@/data/people";
import { NotificationPreferences } from "@/features/notices/NotificationPreferences";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Section } from "@/ui/Section";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { AddressForm } from "./AddressForm";
import { useMe } from "./queries";
import { SecondFactor } from "./SecondFactor";
import { Sessions } from "./Sessions";

/** One's own account: name, password, second factor, and where one is signed in. */
export function AccountPage() {
  const me = useMe().data;
  if (!me) return null;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="760px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="4px">
        Your account
      </Box>
      <Box color="faded" mb="18px">
        {me.email}
      </Box>
      <Section title="Name">
        <Name me={me} />
      </Section>
      <Section title="How you are told">
        <NotificationPreferences />
      </Section>
      <Section title="E-mail address">
        <AddressForm />
      </Section>
      <Section title="Password">
        <Password />
      </Section>
      <Section title="Second factor">
        <SecondFactor />
      </Section>
      <Section title="Where you are signed in">
        <Sessions />
      </Section>
    </Box>
  );
}

function Name({ me }: { me: Me }) {
  const changed = useChanged();
  const form = useForm();
  const [name, setName] = useState(me.name);
  async function send(event: FormEvent) {
    event.preventDefault();
    if (!(await form.send(() => updateMe({ name })))) return;
    await changed("account");
    toast("Your name is kept.");
  }
  return (
    <chakra.form onSubmit={send} maxW="380px">
      <Field
        label="What you are called"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        error={form.at("/name")}
        autoComplete="name"
        maxLength={120}
      />
      <Button type="submit" disabled={form.busy}>
        Keep
      </Button>
    </chakra.form>
  );
}

function Password() {
  const form = useForm();
  const [now, setNow] = useState("");
  const [next, setNext] = useState("");
  async function send(event: FormEvent) {
    event.preventDefault();
    const fine = await form.send(() => changePassword(now, next));
    if (!fine) return;
    setNow("");
    setNext("");
    toast("Your password is changed.");
  }
  return (
    <chakra.form onSubmit={send} maxW="380px">
      <Field
        label="Present password"
        type="password"
        required
        autoComplete="current-password"
        value={now}
        onChange={(e) => setNow(e.currentTarget.value)}
        error={form.at("/current_password")}
      />
      <Field
        label="New password (12 characters or more)"
        type="password"
        required
        autoComplete="new-password"
        value={next}
        onChange={(e) => setNext(e.currentTarget.value)}
        error={form.at("/new_password") ?? form.loose("/current_password", "/new_password")}
      />
      <Button type="submit" disabled={form.busy}>
        Change it
      </Button>
    </chakra.form>
  );
}
