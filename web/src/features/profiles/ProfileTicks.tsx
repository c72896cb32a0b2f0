import type { Profile } from "@/api/client";
import { TickMany } from "@/ui/TickMany";
import { useProfileChoice } from "./useProfileChoice";

type Props = { profiles: Profile[]; chosen: number[]; change: (chosen: number[]) => void };

/** Some of these profiles, each with a box to tick. */
export function ProfileTicks({ profiles, chosen, change }: Props) {
  const asChoice = useProfileChoice();
  const choices = profiles.map((profile) => ({ ...asChoice(profile), value: profile.id }));
  return <TickMany label="Profiles" choices={choices} chosen={chosen} change={change} />;
}
