import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { Problem } from "@/api/client";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { useReadAll } from "@/data/changes";
import { acceptInvitation, peopleQueries } from "@/data/people";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useForm } from "@/ui/useForm";
import { DoorPage } from "./DoorPage";
import { useMe } from "./queries";
import { SignIn } from "./SignIn";
import { useSignOut } from "./useSignOut";

/** Where an invitation's link leads: join as who one is, or as a new person. */
export function InvitationPage() {
  const { token } = useParams({ from: "/invitation/$token" });
  const readAll = useReadAll();
  const navigate = useNavigate();
  const form = useForm();
  const me = useMe();
  const [signing, setSigning] = useState(false);
  const page = useQuery(peopleQueries.invitation(token));
  const { leave, question } = useSignOut(() => location.reload());
  const signedOut = me.error instanceof Problem && me.error.status === 401;
  if (page.error)
    return (
      <DoorPage title="An invitation">
        <Box role="alert">{page.error.message}</Box>
      </DoorPage>
    );
  if (!page.data || (!me.data && !signedOut)) return null;
  const { brand, ink, invited_by: by, role, email, has_account: known, other_account: other } = page.data;
  if (signing && signedOut) return <SignIn said={`Sign in as ${email} to join ${brand}.`} />;

  function join(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const data = new FormData(event.currentTarget);
    void form.send(async () => {
      const body = {
        name: String(data.get("name") ?? ""),
        password: String(data.get("password") ?? ""),
        email: other,
      };
      const made = await acceptInvitation(token, body);
      await readAll();
      void navigate({ to: "/$brand/calendar", params: { brand: made.slug }, search: {} });
    });
  }
  return (
    <DoorPage title="An invitation">
      <Flex align="center" gap="12px" mb="16px">
        <BrandBlock ink={ink} name={brand} size={40} />
        <Box>
          {by} invites you to <b>{brand}</b> as {role}.
        </Box>
      </Flex>
      {signedOut && known ? (
        <>
          <Box mb="12px">{email} has an account here.</Box>
          <Button kind="main" onClick={() => setSigning(true)}>
            Sign in to join
          </Button>
        </>
      ) : (
        <chakra.form onSubmit={join}>
          {me.data ? (
            <Box mb="12px">
              {other && <>The invitation went to {email}. </>}
              You are signed in as <b>{me.data.name}</b> ({me.data.email}).
              {other && <> Join with this account, or sign out first.</>}
            </Box>
          ) : (
            <>
              <Field label="E-mail address" value={email} readOnly autoComplete="username" />
              <Field
                label="What you are called"
                name="name"
                autoComplete="name"
                required
                error={form.at("/name")}
                autoFocus
              />
              <Field
                label="Password (12 characters or more)"
                name="password"
                type="password"
                autoComplete="new-password"
                required
                error={form.at("/password")}
              />
            </>
          )}
          <Flex gap="8px" wrap="wrap">
            <Button
              kind="main"
              type="submit"
              disabled={form.busy}
              h="auto"
              py="8px"
              maxW="100%"
              whiteSpace="normal"
              overflowWrap="anywhere"
            >
              {other ? `Join as ${other}` : `Join ${brand}`}
            </Button>
            {other && <Button onClick={leave}>Sign out first</Button>}
          </Flex>
          {question}
          {form.loose("/name", "/password") && (
            <Box role="alert" color="pimenton" mt="8px">
              {form.loose("/name", "/password")}
            </Box>
          )}
        </chakra.form>
      )}
    </DoorPage>
  );
}
