import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, unwrap } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { asks, auth, wrong } from "./auth";

type Offer = { secret: string; svg: string };

/** Codes of an authenticator (TOTP, RFC 6238): set up, recovery codes, switched off. Asks for the password again first. */
export function SecondFactor() {
  const queries = useQueryClient();
  const form = useForm();
  const [offer, setOffer] = useState<Offer | null>(null);
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<string[]>([]);
  const [password, setPassword] = useState<{ goOn: () => Promise<void> } | null>(null);
  const on = useQuery({
    queryKey: ["factors"],
    queryFn: async () => {
      const answer = await auth("GET", "account/authenticators");
      const all = (answer.body.data ?? []) as unknown as { type: string }[];
      return Array.isArray(all) && all.some((a) => a.type === "totp");
    },
  });
  const again = () => queries.invalidateQueries({ queryKey: ["factors"] });

  async function begin() {
    const answer = await auth("GET", "account/authenticators/totp");
    if (asks(answer, "reauthenticate")) return setPassword({ goOn: begin });
    const meta = (answer.body as { meta?: { secret?: string; totp_url?: string } }).meta;
    if (!meta?.secret || !meta.totp_url) throw wrong(answer, "The second factor can't be set up just now.");
    const svg = await unwrap(api.POST("/api/me/totp-picture", { body: { address: meta.totp_url } }));
    setOffer({ secret: meta.secret, svg });
  }
  async function confirm() {
    const answer = await auth("POST", "account/authenticators/totp", { code: code.replace(/\s/g, "") });
    if (asks(answer, "reauthenticate")) return setPassword({ goOn: confirm });
    if (answer.status !== 200) throw wrong(answer, "That code isn't right. Wait for the next one.");
    setOffer(null);
    setCode("");
    const kept = await auth("GET", "account/authenticators/recovery-codes");
    setCodes((kept.body.data as { unused_codes?: string[] } | undefined)?.unused_codes ?? []);
    await again();
    toast("The second factor is on.");
  }
  async function off() {
    const answer = await auth("DELETE", "account/authenticators/totp");
    if (asks(answer, "reauthenticate")) return setPassword({ goOn: off });
    if (answer.status !== 200) throw wrong(answer, "It could not be switched off.");
    setCodes([]);
    await again();
    toast("The second factor is off.");
  }
  function prove(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const given = String(new FormData(event.currentTarget).get("password"));
    const goOn = password?.goOn;
    void form.send(async () => {
      const answer = await auth("POST", "auth/reauthenticate", { password: given });
      if (answer.status !== 200) throw wrong(answer, "That is not your password.");
      setPassword(null);
      await goOn?.();
    });
  }
  if (password)
    return (
      <chakra.form onSubmit={prove} maxW="380px">
        <Field
          label="Your password once more"
          name="password"
          type="password"
          autoComplete="current-password"
          required
          autoFocus
          error={form.problem?.message}
        />
        <Button type="submit" disabled={form.busy}>
          Go on
        </Button>
      </chakra.form>
    );
  if (codes.length > 0)
    return (
      <Box>
        <Box mb="8px">
          Keep these recovery codes where only you find them: each lets you in once when the authenticator is lost.
        </Box>
        <Box
          as="ul"
          listStyleType="none"
          css={{ columns: 2 }}
          maxW="320px"
          fontFamily="ui-monospace, monospace"
          mb="10px"
        >
          {codes.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </Box>
        <Button onClick={() => setCodes([])}>I have kept them</Button>
      </Box>
    );
  if (offer)
    return (
      <chakra.form
        onSubmit={(event) => {
          event.preventDefault();
          void form.send(confirm);
        }}
      >
        <Flex gap="16px" align="flex-start" flexWrap="wrap" mb="10px">
          {offer.svg && (
            <Box asChild w="148px" h="148px" bg="#fff" p="6px" flex="none">
              <img
                src={`data:image/svg+xml;utf8,${encodeURIComponent(offer.svg)}`}
                alt="The code to scan with your authenticator"
              />
            </Box>
          )}
          <Box flex="1" minW="220px">
            Scan this with an authenticator on your phone, or type the secret there:
            <Box fontFamily="ui-monospace, monospace" my="6px" overflowWrap="anywhere" data-testid="totp-secret">
              {offer.secret}
            </Box>
            <Field
              label="The code it shows"
              inputMode="numeric"
              autoComplete="one-time-code"
              required
              value={code}
              onChange={(e) => setCode(e.currentTarget.value)}
              error={form.problem?.message}
            />
            <Button type="submit" disabled={form.busy}>
              Switch it on
            </Button>
          </Box>
        </Flex>
      </chakra.form>
    );
  return (
    <Flex align="center" gap="14px">
      <Box flex="1">
        {on.data ? "On: signing in asks for a code of your authenticator." : "Off: your password alone lets you in."}
      </Box>
      <Button onClick={() => void form.send(on.data ? off : begin)}>{on.data ? "Switch it off" : "Set it up"}</Button>
      {form.problem && (
        <Box role="alert" color="pimenton">
          {form.problem.message}
        </Box>
      )}
    </Flex>
  );
}
