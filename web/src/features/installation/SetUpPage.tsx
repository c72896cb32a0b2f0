import { Box, chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import type { FormEvent } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import { installationQueries, redeemAccessLink } from "@/data/installation";
import { DoorPage } from "@/features/people/DoorPage";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { useForm } from "@/ui/useForm";

const TITLE = { first: "Set up", new: "A new account", again: "Back in" } as const;
const FIELDS = ["/name", "/email", "/password"];

/** Where a one-time address leads: the first account of an installation, a new one, or back in after access was lost. */
export function SetUpPage() {
  const { token } = useParams({ from: "/set-up/$token" });
  const found = useQuery(installationQueries.accessLink(token));
  if (found.error instanceof Problem && found.error.status === 404)
    return (
      <DoorPage title="Set up">
        <Box role="alert">{found.error.message}</Box>
      </DoorPage>
    );
  if (found.error) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Account token={token} way={found.data} />;
}

function Account({ token, way }: { token: string; way: Schemas["AccessLinkOut"] }) {
  const changed = useChanged();
  const navigate = useNavigate();
  const form = useForm();
  const again = way.kind === "again";
  const loose = form.loose(...FIELDS);

  function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const values = new FormData(event.currentTarget);
    const text = (name: string) => String(values.get(name) ?? "");
    void form.send(async () => {
      const body = { name: text("name"), email: text("email"), password: text("password") };
      const { slug } = await redeemAccessLink(token, body);
      await changed("account");
      if (slug) await navigate({ to: "/$brand/calendar", params: { brand: slug }, search: {} });
      else await navigate({ to: "/new-brand" });
    });
  }
  return (
    <DoorPage title={TITLE[way.kind as keyof typeof TITLE]}>
      <Box mb="16px">
        {way.kind === "first" && "First your account. You will manage this installation; a brand comes next."}
        {way.kind === "new" && "First your account; a brand comes next."}
        {again &&
          `Welcome back, ${way.name}. Choose a new password. A second factor is switched off with it, and whoever is signed in as you is signed out.`}
      </Box>
      <chakra.form onSubmit={send}>
        {!again && <Field label="Name" name="name" autoComplete="name" required autoFocus error={form.at("/name")} />}
        <Field
          label="E-mail address"
          name="email"
          type="email"
          autoComplete="username"
          required
          defaultValue={way.email}
          readOnly={way.email !== ""}
          error={form.at("/email")}
        />
        <Field
          label="Password (12 characters or more)"
          name="password"
          type="password"
          autoComplete="new-password"
          required
          autoFocus={again}
          error={form.at("/password")}
        />
        <Button kind="main" type="submit" disabled={form.busy}>
          {again ? "Save and sign in" : "Make the account"}
        </Button>
        {loose && (
          <Box role="alert" color="pimenton" mt="8px">
            {loose}
          </Box>
        )}
      </chakra.form>
    </DoorPage>
  );
}
