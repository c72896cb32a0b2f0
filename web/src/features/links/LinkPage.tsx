import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearch } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import type { Network, Schemas } from "@/api/client";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { useChanged } from "@/data/changes";
import { connectByLink, deliveryQueries, withdrawProfileByLink } from "@/data/delivery";
import { Conditions } from "@/features/profiles/Conditions";
import { useConnectOutcome } from "@/features/profiles/useConnectOutcome";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { Toasts } from "@/ui/Toasts";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { Wordmark } from "@/ui/Wordmark";

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** For a client, on a phone, without an account: connect one's own profiles, see what is connected, withdraw it. */
export function LinkPage() {
  const { token } = useParams({ from: "/link/$token" });
  const { connected, outcome } = useSearch({ from: "/link/$token" });
  const { refused, left } = useConnectOutcome(outcome);
  const page = useQuery(deliveryQueries.linkPage(token));
  return (
    <Box as="main" w="100%" maxW="480px" mx="auto" p="18px 16px 60px">
      <Wordmark size="26px" />
      {page.error ? (
        <Box role="alert" mt="24px">
          <Box as="h1" fontSize="22px" mb="8px">
            This link leads nowhere
          </Box>
          {page.error.message}
        </Box>
      ) : page.data ? (
        <>
          <Flex align="center" gap="12px" mt="18px" mb="10px">
            <BrandBlock ink={page.data.ink} name={page.data.brand} size={44} />
            <Box as="h1" fontSize="22px" lineHeight="27px">
              {page.data.created_by} asks to post for {page.data.brand}
            </Box>
          </Flex>
          <Box color="faded" mb="14px">
            For {page.data.display_name}. You sign in at each network yourself and choose there; no password is typed
            here. Good until {formatInstant(page.data.expires_at, ZONE, true)}.
          </Box>
          {refused && (
            <Box mb="14px">
              <Bar tone="pimenton" role="alert">
                {refused}
              </Bar>
            </Box>
          )}
          {connected && !refused && (
            <Box mb="14px">
              <Bar tone="epazote" role="status">
                Thank you. It is connected; you can close this page, or withdraw it below at any time.
                {left.length > 0 && ` Not taken, since it wasn't asked for: ${left.join(", ")}.`}
              </Bar>
            </Box>
          )}
          {page.data.networks.map((network) => (
            <Asked
              key={network.network}
              network={network}
              token={token}
              profiles={page.data.profiles.filter((p) => p.network === network.network)}
            />
          ))}
        </>
      ) : (
        <Loading />
      )}
      <Toasts />
    </Box>
  );
}

type Linked = Schemas["LinkedOut"];

function Asked({ network, token, profiles }: { network: Network; token: string; profiles: Linked[] }) {
  const changed = useChanged();
  const form = useForm();
  const [address, setAddress] = useState("");
  const site = network.network === "open-site";

  function go(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const body = { network: network.network, address };
      const to = await connectByLink(token, body);
      location.assign(to.go_to);
    });
  }
  async function withdraw(profile: Linked) {
    await form.send(() => withdrawProfileByLink(token, profile.id));
    await changed("link-page");
    toast(`${profile.handle} is withdrawn. Nothing is posted there any more.`);
  }
  return (
    <Box as="section" aria-label={network.name} borderTopWidth="1px" borderColor="rule" py="14px">
      <Flex gap="10px" align="center" mb="6px">
        <NetworkTile letters={network.letters} shape={network.shape} size={32} />
        <Box>
          <Box as="h2" fontSize="17px" lineHeight="21px">
            {network.name}
          </Box>
          <Box color="faded" fontSize="12.5px">
            {network.about}
          </Box>
        </Box>
      </Flex>
      <Conditions kinds={network.kinds} />
      {profiles.map((profile) => (
        <Box key={profile.id} bg="card" borderWidth="1px" borderColor="rule" p="10px 12px" mb="8px">
          <Flex gap="10px" align="center">
            <Box flex="1" minW="0">
              <b>{profile.handle}</b>
              <Box fontSize="12.5px" color={profile.state === "connected" ? "epazote" : "pimenton"} fontWeight="600">
                {profile.state === "connected" ? "connected in your name" : profile.state.replaceAll("_", " ")}
              </Box>
            </Box>
            <Button minH="44px" onClick={() => void withdraw(profile)} aria-label={`Withdraw ${profile.handle}`}>
              Withdraw
            </Button>
          </Flex>
          {profile.unmet.map((condition) => (
            <Box key={condition.id} fontSize="13px" mt="6px">
              <b>Not met:</b> {condition.message} {condition.remedy}
            </Box>
          ))}
        </Box>
      ))}
      <form onSubmit={go}>
        {site && (
          <Field
            label="Address of your site"
            placeholder="https://"
            inputMode="url"
            value={address}
            onChange={(e) => setAddress(e.currentTarget.value)}
            error={form.at("/address")}
          />
        )}
        <Button kind={profiles.length ? "plain" : "main"} type="submit" w="100%" minH="48px" disabled={form.busy}>
          {profiles.length ? `Choose again at ${network.name}` : `Go to ${network.name}`}
        </Button>
      </form>
      {form.loose("/address") && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.loose("/address")}
        </Box>
      )}
    </Box>
  );
}
