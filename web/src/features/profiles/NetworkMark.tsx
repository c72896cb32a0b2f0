import { NetworkTile } from "@/ui/NetworkTile";
import { useNetworks } from "./queries";

/** The tile of a network by its name in the API. */
export function NetworkMark({ network, size = 18 }: { network: string; size?: number }) {
  const found = useNetworks().get(network);
  return found ? <NetworkTile letters={found.letters} shape={found.shape} size={size} /> : null;
}
