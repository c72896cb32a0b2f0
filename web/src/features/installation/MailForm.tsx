import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import { deleteMailServer, saveMailServer, sendTestMail } from "@/data/installation";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

const BY: Record<string, string> = {
  page: "Mail goes out by this server.",
  environment: "Mail goes out by the server that the environment names. What is saved here takes its place.",
  tray: "The demo keeps all mail in its mail tray, whatever is saved here.",
  nothing: "No mail goes out yet. Until it does, links are shown to be copied and handed over.",
};
const FIELDS = ["/host", "/port", "/security", "/user", "/password", "/sender"];
const START = { host: "", port: 587, security: "starttls", user: "", sender: "" };

/** By which server mail leaves; it can be tried before it is saved. */
export function MailForm({ loaded, me }: { loaded: Schemas["InstallationOut"]; me: string }) {
  const changed = useChanged();
  const form = useForm();
  const [tried, setTried] = useState(false);
  const [values, setValues] = useState({ ...(loaded.mail ?? START), password: "" });
  const set = (more: Partial<typeof values>) => {
    setTried(false);
    setValues((v) => ({ ...v, ...more }));
  };
  const { host, port, security, user, password, sender } = values;
  const body = { host, port, security, user, password, sender };
  async function save(event: FormEvent) {
    event.preventDefault();
    if (!(await form.send(() => saveMailServer(body)))) return;
    await changed("installation");
    toast("The mail server is saved.");
  }
  async function test() {
    setTried(false);
    setTried(await form.send(() => sendTestMail(body)));
  }
  async function forget() {
    if (!(await form.send(() => deleteMailServer()))) return;
    await changed("installation");
    toast("The mail server is removed.");
  }
  const loose = form.loose(...FIELDS);
  return (
    <chakra.form onSubmit={save} maxW="460px">
      <Box color="faded" mb="12px">
        {BY[loaded.mail_by]}
      </Box>
      <Flex gap="10px">
        <Box flex="1" minW="0">
          <Field
            label="Server"
            placeholder="mail.example.org"
            value={host}
            onChange={(e) => set({ host: e.currentTarget.value })}
            error={form.at("/host")}
            autoComplete="off"
          />
        </Box>
        <Box w="90px">
          <Field
            label="Port"
            inputMode="numeric"
            value={port ? String(port) : ""}
            onChange={(e) => set({ port: Number(e.currentTarget.value.replace(/\D/g, "").slice(0, 6)) })}
            error={form.at("/port")}
          />
        </Box>
      </Flex>
      <Select
        label="Security"
        value={security}
        onChange={(e) => set({ security: e.currentTarget.value })}
        error={form.at("/security")}
      >
        <option value="starttls">TLS after the greeting (STARTTLS), usually port 587</option>
        <option value="tls">TLS from the start, usually port 465</option>
        <option value="none">none: only for a server on this machine</option>
      </Select>
      <Field
        label="User (may stay empty)"
        value={user}
        onChange={(e) => set({ user: e.currentTarget.value })}
        error={form.at("/user")}
        autoComplete="off"
      />
      <Field
        label={loaded.mail?.has_password ? "Password (empty: the saved one)" : "Password (may stay empty)"}
        type="password"
        value={password}
        onChange={(e) => set({ password: e.currentTarget.value })}
        error={form.at("/password")}
        autoComplete="new-password"
      />
      <Field
        label="Sender's address"
        type="email"
        placeholder="menudo@example.org"
        value={sender}
        onChange={(e) => set({ sender: e.currentTarget.value })}
        error={form.at("/sender")}
      />
      <Flex gap="10px" flexWrap="wrap">
        <Button type="submit" disabled={form.busy}>
          Save
        </Button>
        <Button onClick={() => void test()} disabled={form.busy}>
          {form.busy ? "One moment" : "Send a test mail"}
        </Button>
        {loaded.mail && (
          <Button kind="quiet" onClick={() => void forget()} disabled={form.busy}>
            Remove
          </Button>
        )}
      </Flex>
      {tried && (
        <Box role="status" mt="8px">
          The server took a mail to {me}. Look whether it has arrived.
        </Box>
      )}
      {loose && (
        <Box role="alert" color="pimenton" mt="8px">
          {loose}
        </Box>
      )}
    </chakra.form>
  );
}
