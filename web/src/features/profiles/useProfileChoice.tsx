import { useCallback } from "react";
import type { Profile } from "@/api/client";
import type { Choice } from "@/ui/choices";
import { NetworkMark } from "./NetworkMark";
import { useNetworks } from "./queries";

/** A profile as one of many to choose from: its name, and the network that tells it from another of the same name. */
export function useProfileChoice(): (profile: Profile) => Choice {
  const networks = useNetworks();
  return useCallback(
    (profile) => ({
      value: String(profile.id),
      words: profile.display_name || profile.handle,
      mark: <NetworkMark network={profile.network} />,
      more: networks.get(profile.network)?.name,
    }),
    [networks],
  );
}
