import { Box, chakra } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { giveCode, signIn } from "@/data/account";
import { useReadAll } from "@/data/changes";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useForm } from "@/ui/useForm";
import { DoorPage } from "./DoorPage";
import { usePublicStatus } from "./queries";

const NOBODY =
  "Nobody has an account here yet. The address where the first one is made stands where Menudo was started; starting it again makes a new one.";

/** Sign in: address and password, and the second factor when one is set up. */
export function SignIn({ said }: { said?: string }) {
  const readAll = useReadAll();
  const form = useForm();
  const [step, setStep] = useState<"password" | "code">("password");
  const begun = usePublicStatus().data?.begun ?? true;

  function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const data = new FormData(event.currentTarget);
    void form.send(async () => {
      if (step === "password") {
        const next = await signIn(String(data.get("email")), String(data.get("password")));
        if (next === "code") return setStep("code");
      } else await giveCode(String(data.get("code")));
      await readAll();
    });
  }
  return (
    <DoorPage title="Often, and on time." said={said ?? (begun ? undefined : NOBODY)}>
      <chakra.form onSubmit={send}>
        {step === "password" ? (
          <>
            <Field label="E-mail address" name="email" type="email" autoComplete="username" required autoFocus />
            <Field
              label="Password"
              name="password"
              type="password"
              autoComplete="current-password"
              required
              error={form.problem?.message}
            />
          </>
        ) : (
          <>
            <Box mb="12px">Type the code that your authenticator shows, or one of your recovery codes.</Box>
            <Field
              key="code"
              label="Code"
              name="code"
              inputMode="numeric"
              autoComplete="one-time-code"
              required
              autoFocus
              error={form.problem?.message}
            />
          </>
        )}
        <Button kind="main" type="submit" disabled={form.busy} mt="8px">
          {form.busy ? "Signing in" : "Sign in"}
        </Button>
        <Box mt="18px" fontSize="13px">
          <Link to="/reset" style={{ textDecoration: "underline" }}>
            Forgot the password?
          </Link>
        </Box>
      </chakra.form>
    </DoorPage>
  );
}
