import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { Network, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createConnectLink, profileQueries, revokeLink } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { LinkOnce } from "@/ui/LinkOnce";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useNetworks } from "./queries";

type Want = Schemas["RequestedNetwork"];

/** Links that ask clients to connect their own profiles: make one, copy it, see what came by it, take it back. */
export function ClientLinksPanel({ close }: { close: () => void }) {
  const { brand, me } = useBrandContext();
  const changed = useChanged(brand.slug);
  const links = useQuery(profileQueries.connectLinks(brand.slug));
  const [offered, setOffered] = useState<Schemas["OfferedOut"] | null>(null);

  async function revoke(id: number) {
    await revokeLink(brand.slug, id);
    await changed("profile");
    if (offered?.link.id === id) setOffered(null);
    toast("The link leads nowhere any more. What was connected by it stays.");
  }
  return (
    <SidePanel title="Ask a client for their profiles" open close={close}>
      <Box color="faded" mb="12px">
        The client opens the link on a phone, without an account, authorises at the network and chooses pages. No
        password changes hands; they see what is connected in their name and can withdraw it.
      </Box>
      {offered && <LinkOnce called={offered.link.display_name} address={offered.address} />}
      {!offered && <NewLink made={setOffered} />}
      <Box mt="18px">
        {links.data?.map((link) => (
          <Flex key={link.id} gap="10px" py="8px" borderTopWidth="1px" borderColor="rule" align="flex-start">
            <Box flex="1" minW="0">
              <b>{link.display_name}</b>
              <Box color="faded" fontSize="12px" lineHeight="16px">
                Until {formatInstant(link.expires_at, brand.zone, me.clock24)}.{" "}
                {link.profiles.length === 0
                  ? "Nothing connected yet."
                  : `Connected: ${link.profiles.map((p) => p.handle).join(", ")}.`}
              </Box>
            </Box>
            <Button aria-label={`Take back the link for ${link.display_name}`} onClick={() => void revoke(link.id)}>
              Take back
            </Button>
          </Flex>
        ))}
      </Box>
      {offered && (
        <Button mt="12px" onClick={() => setOffered(null)}>
          Another link
        </Button>
      )}
    </SidePanel>
  );
}

function NewLink({ made }: { made: (offered: Schemas["OfferedOut"]) => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const networks = [...useNetworks().values()].filter((n) => n.connects);
  const form = useForm();
  const [called, setCalled] = useState("");
  const [days, setDays] = useState("14");
  const [wants, setWants] = useState<Want[]>([]);

  function ask(network: Network, kind: string, on: boolean) {
    const kinds = wants.find((w) => w.network === network.network)?.kinds ?? [];
    const now = on ? [...kinds, kind] : kinds.filter((k) => k !== kind);
    const others = wants.filter((w) => w.network !== network.network);
    setWants(now.length ? [...others, { network: network.network, kinds: now }] : others);
  }
  function send(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const body = { display_name: called, requested: wants, days: Number(days) };
      made(await createConnectLink(brand.slug, body));
      await changed("profile");
    });
  }
  return (
    <chakra.form onSubmit={send}>
      <Field
        label="For whom"
        placeholder="Bruno at Hogaza"
        value={called}
        onChange={(e) => setCalled(e.currentTarget.value)}
        error={form.at("/display_name")}
        maxLength={120}
      />
      <Box as="fieldset" mb="12px">
        <Box as="legend" fontWeight="600" fontSize="13px">
          What is asked for
        </Box>
        {networks.map((network) =>
          network.kinds
            .filter((kind) => kind.direct)
            .map((kind) => (
              <Tick
                key={network.network + kind.kind}
                checked={wants.some((w) => w.network === network.network && w.kinds.includes(kind.kind))}
                onChange={(e) => ask(network, kind.kind, e.target.checked)}
              >
                {network.name}: {kind.name}
              </Tick>
            )),
        )}
        {form.at("/requested") && (
          <Box role="alert" color="pimenton" fontSize="13px">
            {form.at("/requested")}
          </Box>
        )}
      </Box>
      <Field
        label="Good for so many days"
        type="number"
        min={1}
        max={90}
        value={days}
        onChange={(e) => setDays(e.currentTarget.value)}
        error={form.at("/days")}
      />
      <Button kind="main" type="submit" disabled={form.busy}>
        Make the link
      </Button>
      {form.loose("/display_name", "/requested", "/days") && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.loose("/display_name", "/requested", "/days")}
        </Box>
      )}
    </chakra.form>
  );
}
