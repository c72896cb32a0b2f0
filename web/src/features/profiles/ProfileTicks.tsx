import type { Profile } from "@/api/client";
import { TickMany } from "@/ui/TickMany";
import { NetworkMark } from "./NetworkMark";

type Props = { profiles: Profile[]; chosen: number[]; change: (chosen: number[]) => void };

/** Some of these profiles, each with a box to tick. */
export function ProfileTicks({ profiles, chosen, change }: Props) {
  const choices = profiles.map((profile) => ({
    value: profile.id,
    words: profile.display_name || profile.handle,
    mark: <NetworkMark network={profile.network} />,
  }));
  return <TickMany label="Profiles" choices={choices} chosen={chosen} change={change} />;
}
