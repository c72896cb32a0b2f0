import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { auth, wrong } from "./auth";

type Address = { email: string; verified: boolean; primary: boolean };
const KEY = ["addresses"];
const CHANGED = "The address could not be changed.";

/** Another e-mail address: it takes the place of the present one when its owner has opened the mailed link. */
export function AddressForm() {
  const queries = useQueryClient();
  const form = useForm();
  const [email, setEmail] = useState("");
  const found = useQuery({
    queryKey: KEY,
    queryFn: async () => ((await auth("GET", "account/email")).body.data ?? []) as unknown as Address[],
  });
  const waiting = (found.data ?? []).find((one) => !one.verified)?.email;

  async function ask(method: "POST" | "DELETE", address: string) {
    const fine = await form.send(async () => {
      const answer = await auth(method, "account/email", { email: address });
      if (answer.status !== 200) throw wrong(answer, CHANGED);
    });
    if (!fine) return;
    setEmail("");
    await queries.invalidateQueries({ queryKey: KEY });
    toast(method === "POST" ? `A link is on its way to ${address}.` : "Your address stays as it is.");
  }
  function send(event: FormEvent) {
    event.preventDefault();
    void ask("POST", email.trim());
  }
  return (
    <chakra.form onSubmit={send} maxW="380px">
      {waiting && (
        <Flex align="center" gap="12px" mb="12px">
          <Box flex="1" minW="0" overflowWrap="anywhere">
            <b>{waiting}</b> takes its place when the mailed link is opened.
          </Box>
          <Button onClick={() => void ask("DELETE", waiting)} disabled={form.busy}>
            Cancel
          </Button>
        </Flex>
      )}
      <Field
        label="New e-mail address"
        type="email"
        required
        autoComplete="email"
        value={email}
        onChange={(e) => setEmail(e.currentTarget.value)}
        error={form.at("/email") ?? form.loose("/email")}
      />
      <Button type="submit" disabled={form.busy}>
        Send the link
      </Button>
    </chakra.form>
  );
}
