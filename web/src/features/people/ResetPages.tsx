import { Box, chakra } from "@chakra-ui/react";
import { Link, useParams } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { requestReset, resetPassword } from "@/data/account";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useForm } from "@/ui/useForm";
import { DoorPage } from "./DoorPage";
import { usePublicStatus } from "./queries";

/** Ask for a link to set a new password. Says the same whether there is such an account or not. */
export function ResetPage() {
  const form = useForm();
  const [sent, setSent] = useState(false);
  const mail = usePublicStatus().data?.mail ?? true;
  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const email = String(new FormData(event.currentTarget).get("email"));
    const fine = await form.send(() => requestReset(email));
    setSent(fine);
  }
  return (
    <DoorPage title="A new password">
      {!mail ? (
        <Box role="status">
          This installation sends no mail. Ask whoever manages it for a one-time address: where Menudo runs, ./menudo
          invite with your e-mail address makes one.
        </Box>
      ) : sent ? (
        <Box role="status">If there is an account with that address, a link is on its way to it.</Box>
      ) : (
        <chakra.form onSubmit={send}>
          <Field
            label="E-mail address"
            name="email"
            type="email"
            autoComplete="username"
            required
            autoFocus
            error={form.problem?.message}
          />
          <Button kind="main" type="submit" disabled={form.busy}>
            Send the link
          </Button>
        </chakra.form>
      )}
      <BackToSignIn />
    </DoorPage>
  );
}

/** Where the mailed link leads: the new password. */
export function NewPasswordPage() {
  const { key } = useParams({ from: "/reset/$key" });
  const form = useForm();
  const [done, setDone] = useState(false);
  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const password = String(new FormData(event.currentTarget).get("password"));
    const fine = await form.send(() => resetPassword(key, password));
    setDone(fine);
  }
  return (
    <DoorPage title="A new password">
      {done ? (
        <Box role="status">The new password is set. Sign in with it.</Box>
      ) : (
        <chakra.form onSubmit={send}>
          <Field
            label="New password (12 characters or more)"
            name="password"
            type="password"
            autoComplete="new-password"
            required
            autoFocus
            error={form.at("/password") ?? form.at("/key") ?? form.problem?.message}
          />
          <Button kind="main" type="submit" disabled={form.busy}>
            Set it
          </Button>
        </chakra.form>
      )}
      <BackToSignIn />
    </DoorPage>
  );
}

function BackToSignIn() {
  return (
    <Box mt="18px" fontSize="13px">
      <Link to="/" search={{}} style={{ textDecoration: "underline" }}>
        To signing in
      </Link>
    </Box>
  );
}
