import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { api, got, type Network } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { NetworkTile } from "@/ui/NetworkTile";
import { SidePanel } from "@/ui/SidePanel";
import { useNetworks } from "./queries";

/** Which network, and what it asks for, before the trip there. */
export function ConnectPanel({ open, close }: { open: boolean; close: () => void }) {
  const { brand } = useHere();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const networks = [...useNetworks().values()].filter((network) => network.connects);

  async function go(network: Network) {
    setBusy(true);
    setWrong("");
    try {
      const to = await got(
        api.POST("/api/brands/{brand}/connections", {
          params: { path: { brand: brand.slug } },
          body: { network: network.network },
        }),
      );
      location.assign(to.go_to);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  }
  return (
    <SidePanel title="Connect profiles" open={open} close={close}>
      <Box color="faded" mb="14px">
        You go to the network, sign in there and choose which profiles Menudo may post to. No password is typed here.
      </Box>
      {wrong && (
        <Box role="alert" color="pimenton" mb="12px">
          {wrong}
        </Box>
      )}
      {networks.map((network) => (
        <Box key={network.network} borderWidth="1px" borderColor="rule" p="14px" mb="10px">
          <Box display="flex" gap="10px" alignItems="center" mb="6px">
            <NetworkTile letters={network.letters} shape={network.shape} size={28} />
            <Box>
              <b>{network.name}</b>
              <Box color="faded" fontSize="12px">
                {network.about}
              </Box>
            </Box>
          </Box>
          <Box as="ul" pl="18px" mb="10px" fontSize="13px">
            {network.kinds.flatMap((kind) =>
              kind.conditions.map((condition) => <li key={kind.kind + condition}>{condition}</li>),
            )}
          </Box>
          <Button kind="main" disabled={busy} onClick={() => go(network)}>
            Go to {network.name}
          </Button>
        </Box>
      ))}
    </SidePanel>
  );
}
