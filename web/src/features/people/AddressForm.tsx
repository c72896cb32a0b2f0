import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { accountQueries, changeAddress } from "@/data/account";
import { useChanged } from "@/data/changes";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

const CHANGED = "The address could not be changed.";

/** Another e-mail address: it takes the place of the present one when its owner has opened the mailed link. */
export function AddressForm() {
  const changed = useChanged();
  const form = useForm();
  const [email, setEmail] = useState("");
  const found = useQuery(accountQueries.addresses());
  const waiting = (found.data ?? []).find((one) => !one.verified)?.email;

  async function ask(method: "POST" | "DELETE", address: string) {
    const fine = await form.send(() => changeAddress(method, address, CHANGED));
    if (!fine) return;
    setEmail("");
    await changed("address");
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
