import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { accountQueries, confirmSecondFactor, giveAgain, offerSecondFactor, removeSecondFactor } from "@/data/account";
import { useChanged } from "@/data/changes";
import { totpPicture } from "@/data/people";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

type Offer = { secret: string; svg: string };

/** Codes of an authenticator (TOTP, RFC 6238): set up, recovery codes, switched off. Asks for the password again first. */
export function SecondFactor() {
  const changed = useChanged();
  const form = useForm();
  const [offer, setOffer] = useState<Offer | null>(null);
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<string[]>([]);
  const [password, setPassword] = useState<{ goOn: () => Promise<void> } | null>(null);
  const on = useQuery(accountQueries.secondFactor());
  const again = () => changed("factor");

  async function begin() {
    const offered = await offerSecondFactor();
    if (offered === "password") return setPassword({ goOn: begin });
    setOffer({ secret: offered.secret, svg: await totpPicture({ address: offered.address }) });
  }
  async function confirm() {
    const recovery = await confirmSecondFactor(code);
    if (recovery === "password") return setPassword({ goOn: confirm });
    setOffer(null);
    setCode("");
    setCodes(recovery);
    await again();
    toast("The second factor is on.");
  }
  async function off() {
    if ((await removeSecondFactor()) === "password") return setPassword({ goOn: off });
    setCodes([]);
    await again();
    toast("The second factor is off.");
  }
  function prove(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const given = String(new FormData(event.currentTarget).get("password"));
    const goOn = password?.goOn;
    void form.send(async () => {
      await giveAgain(given);
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
