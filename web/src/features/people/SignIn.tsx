import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Problem } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Wordmark } from "@/ui/Wordmark";
import { signIn } from "./queries";

export function SignIn({ said }: { said?: string }) {
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");

  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    setWrong("");
    try {
      await signIn(String(form.get("email")), String(form.get("password")));
      await queries.invalidateQueries();
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : "Signing in failed. Try again.");
    } finally {
      setBusy(false);
    }
  }

  return (
    <Flex minH="100vh" align="center" justify="center" p="6" asChild>
      <main>
        <chakra.form onSubmit={send} w="100%" maxW="360px">
          <Wordmark size="44px" />
          <Box as="h1" fontSize="20px" lineHeight="26px" mt="6px" mb="24px" color="faded" fontStyle="italic">
            Often, and on time.
          </Box>
          {said && (
            <Box role="status" mb="16px" p="10px 12px" bg="wash" borderLeft="3px solid" borderColor="maize">
              {said}
            </Box>
          )}
          <Field label="E-mail address" name="email" type="email" autoComplete="username" required autoFocus />
          <Field
            label="Password"
            name="password"
            type="password"
            autoComplete="current-password"
            required
            error={wrong}
          />
          <Button kind="main" type="submit" disabled={busy} mt="8px">
            {busy ? "Signing in" : "Sign in"}
          </Button>
        </chakra.form>
      </main>
    </Flex>
  );
}
