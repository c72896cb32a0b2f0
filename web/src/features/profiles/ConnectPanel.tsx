import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Network, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { connect } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { NetworkTile } from "@/ui/NetworkTile";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { Conditions } from "./Conditions";
import { useNetworks } from "./queries";

const SITE = "open-site";

/** Which network, and what it asks for, before the trip there. */
export function ConnectPanel({ open, close }: { open: boolean; close: () => void }) {
  return (
    <SidePanel title="Connect profiles" open={open} close={close}>
      <ConnectList returnTo="profiles" />
    </SidePanel>
  );
}

type ReturnPage = Schemas["StartConnectionIn"]["return_to"];

/** Every network one can connect at. `returnTo`: the page that one comes back to. */
export function ConnectList({ returnTo }: { returnTo: ReturnPage }) {
  const networks = [...useNetworks().values()].filter((network) => network.connects);
  return (
    <>
      <Box color="faded" mb="14px">
        You go to the network, sign in there and choose which profiles Menudo may post to. No password is typed here.
        Read first what each kind of profile needs.
      </Box>
      {networks.map((network) => (
        <One key={network.network} network={network} returnTo={returnTo} />
      ))}
    </>
  );
}

function One({ network, returnTo }: { network: Network; returnTo: ReturnPage }) {
  const { brand } = useBrandContext();
  const form = useForm();
  const [address, setAddress] = useState("");
  const site = network.network === SITE;

  function go(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const body = { network: network.network, address, return_to: returnTo };
      const to = await connect(brand.slug, body);
      location.assign(to.go_to);
    });
  }
  return (
    <chakra.form onSubmit={go} borderBottomWidth="1px" borderColor="rule" py="12px">
      <Flex gap="10px" align="center" mb="4px">
        <NetworkTile letters={network.letters} shape={network.shape} size={28} />
        <Box flex="1" minW="0">
          <b>{network.name}</b>
          <Box color="faded" fontSize="12px" lineHeight="16px">
            {network.about}
          </Box>
        </Box>
        <Button type="submit" disabled={form.busy}>
          {form.busy ? "One moment" : site ? "Go to the site" : `Go to ${network.name}`}
        </Button>
      </Flex>
      <Conditions kinds={network.kinds} />
      {site && (
        <Field
          label="Address of the site"
          placeholder="https://"
          value={address}
          onChange={(e) => setAddress(e.currentTarget.value)}
          error={form.at("/address")}
          inputMode="url"
        />
      )}
      {form.loose("/address") && (
        <Box role="alert" color="pimenton" fontSize="13px">
          {form.loose("/address")}
        </Box>
      )}
    </chakra.form>
  );
}
