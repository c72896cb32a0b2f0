import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import { installationQueries, issueAccessLink } from "@/data/installation";
import { useMe } from "@/features/people/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { LinkOnce } from "@/ui/LinkOnce";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Section } from "@/ui/Section";
import { formatInstant } from "@/ui/times";
import { useForm } from "@/ui/useForm";
import { MailForm } from "./MailForm";

type Installation = Schemas["InstallationOut"];

/** Mail, ways in, networks, and what broke: for whoever manages the installation. */
export function InstallationPage() {
  const me = useMe().data;
  const found = useQuery(installationQueries.installation());
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data || !me) return <Loading />;
  const { address, networks, failures: mishaps } = found.data;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="760px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="4px">
        Installation
      </Box>
      <Box color="faded" mb="18px">
        {address}
      </Box>
      <Section title="Mail">
        <MailForm key={JSON.stringify(found.data.mail)} loaded={found.data} me={me.email} />
      </Section>
      <Section title="New people">
        <NewPeople />
      </Section>
      <Section title="Networks">
        <Networks networks={networks} />
      </Section>
      <Section title="What broke">
        <Mishaps mishaps={mishaps} clock24={me.clock24} />
      </Section>
    </Box>
  );
}

/** A one-time address for somebody who will have a brand of their own. */
function NewPeople() {
  const changed = useChanged();
  const form = useForm();
  const [email, setEmail] = useState("");
  const [link, setLink] = useState({ email: "", address: "" });
  async function send(event: FormEvent) {
    event.preventDefault();
    const fine = await form.send(async () => {
      const { address } = await issueAccessLink({ email });
      setLink({ email: email.trim(), address });
    });
    if (fine) setEmail("");
    await changed("installation");
  }
  return (
    <>
      <Box color="faded" mb="12px">
        For somebody who will make a brand of their own. Into a brand that is there, its people invite. Whoever has lost
        access is let in again where Menudo runs: ./menudo invite with their e-mail address.
      </Box>
      {link.address && <LinkOnce called={`${link.email}, good for 24 hours`} address={link.address} />}
      <chakra.form onSubmit={send} maxW="460px">
        <Field
          label="E-mail address"
          type="email"
          required
          value={email}
          onChange={(e) => setEmail(e.currentTarget.value)}
          error={form.at("/email") ?? form.loose("/email")}
        />
        <Button type="submit" disabled={form.busy}>
          Make a one-time address
        </Button>
      </chakra.form>
    </>
  );
}

function Networks({ networks }: { networks: Installation["networks"] }) {
  if (networks.length === 0)
    return (
      <Box color="faded">
        None is set up here. Open sites, profiles by hand and rule sheets of one's own need no setting up. Others are
        named in the file networks.toml: see docs/serving.md.
      </Box>
    );
  return (
    <>
      {networks.map((one) => (
        <Flex key={one.network} gap="12px" py="6px" flexWrap="wrap">
          <Box w="140px" fontWeight="600">
            {one.name}
          </Box>
          <Box color="faded" flex="1" overflowWrap="anywhere">
            {one.address}
          </Box>
        </Flex>
      ))}
    </>
  );
}

function Mishaps({ mishaps, clock24 }: { mishaps: Installation["failures"]; clock24: boolean }) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  if (mishaps.length === 0) return <Box color="faded">Nothing broke in the last two weeks.</Box>;
  return (
    <>
      <Box color="faded" mb="8px">
        Errors of Menudo's own. All else went on; each is tried again.
      </Box>
      {mishaps.map((one) => (
        <Box key={`${one.step} ${one.subject}`} borderTopWidth="1px" borderColor="rule" py="8px">
          <Flex gap="12px" flexWrap="wrap">
            <Box flex="1" minW="200px">
              <b>{one.step}</b> {one.subject && `at ${one.subject}`}
            </Box>
            <Box color="faded" fontSize="13px">
              {one.times === 1 ? "once" : `${one.times} times`}, last {formatInstant(one.last, zone, clock24)}
            </Box>
          </Flex>
          <Box as="code" display="block" fontSize="12px" overflowWrap="anywhere">
            {one.error}
          </Box>
        </Box>
      ))}
    </>
  );
}
